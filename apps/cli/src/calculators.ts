import { readFileSync } from 'node:fs';
import {
  h264Level,
  hevcLevel,
  macroblocks,
  mathisMbps,
  pictureDemand,
  readMeasurementFile,
  rfc5348Mbps,
  voiceCodecs,
  voiceQuality,
  wifiRateMbps,
  windowMbps,
  type VoiceCodec,
} from '@underpass/core';
import { CommandError } from './commandError.js';
import type { Options } from './options.js';

const finite = (value: number) => (Number.isFinite(value) ? value : null);

export function link(options: Options): object {
  const file = options.positional[0];
  if (!file) throw new CommandError('link: give the measurement file');
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CommandError(`${file}: cannot be read`);
  }
  const result = readMeasurementFile(text);
  if (!result.ok) throw new CommandError(`${file}: ${result.fault.place}: ${result.fault.problem}; ${result.fault.remedy}`);
  return result.value.summary;
}

export function voice(options: Options): object {
  const codec = options.choice('codec', Object.keys(voiceCodecs) as VoiceCodec[]) ?? 'g711-plc';
  return voiceQuality(options.needed('delay', 0, 10_000), options.needed('loss', 0, 100), codec, options.number('burst', 1, 100) ?? 1);
}

export function throughput(options: Options): object {
  const rtt = options.needed('rtt', 0, 120_000);
  const loss = options.needed('loss', 0, 100) / 100;
  const mss = options.number('mss', 1, 65_535) ?? 1460;
  const window = options.number('window', 1, 1e12);
  return {
    rfc5348Mbps: finite(rfc5348Mbps(rtt, loss, mss)),
    mathisMbps: finite(mathisMbps(rtt, loss, mss)),
    windowMbps: window === undefined ? null : finite(windowMbps(rtt, window)),
  };
}

export function wifiRate(options: Options): object {
  const standard = options.choice('standard', ['ht', 'vht', 'he'] as const);
  if (!standard) throw new CommandError('--standard: is missing');
  const result = wifiRateMbps(
    standard,
    options.needed('width', 1, 320),
    options.needed('mcs', 0, 99),
    options.needed('streams', 1, 16),
    options.needed('gi', 1, 10_000),
  );
  if (!result.ok) throw new CommandError(`--${result.fault.place}: ${result.fault.problem}; ${result.fault.remedy}`);
  return { mbps: Math.round(result.value * 10) / 10 };
}

/** Ordinary work with some video; common practice, no source. */
const ordinary = { still: 0.4, text: 0.42, window: 0.08, 'page-video': 0.1 };

export function picture(options: Options): object {
  const [width, height, fps] = [
    options.needed('width', 16, 16_384),
    options.needed('height', 16, 16_384),
    options.number('fps', 1, 240) ?? 30,
  ];
  const codec = options.choice('codec', ['bitmap', 'progressive', 'h264', 'hevc', 'av1'] as const) ?? 'h264';
  const chroma = options.choice('chroma', ['420', '444', '4:2:0', '4:4:4'] as const) ?? '420';
  const content = options.choice('content', ['still', 'text', 'window', 'page-video', 'video', 'motion'] as const);
  const demand = pictureDemand(content ? { [content]: 1 } : ordinary, {
    activePixels: width * height,
    idlePixels: 0,
    fps,
    codec,
    chroma444: chroma.replaceAll(':', '') === '444',
  });
  return {
    demandMbps: demand.meanMbps,
    p95Mbps: demand.p95Mbps,
    firstFrameBytes: Math.round(demand.firstFrameBytes),
    h264Level: h264Level(width, height, fps),
    hevcLevel: hevcLevel(width, height, fps),
    macroblocksPerS: macroblocks(width, height) * fps,
  };
}
