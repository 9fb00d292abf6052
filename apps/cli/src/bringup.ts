import { readFileSync } from 'node:fs';
import {
  cvt as cvtOf,
  edidBytes,
  mergeConfig,
  portRateGbps,
  readDhcp,
  readEdid,
  versionOrder,
  wifiCode,
  wifiTypes,
  type ConfigText,
  type Result,
} from '@underpass/core';
import { CommandError } from './commandError.js';
import type { Options } from './options.js';

/** Largest file that is read at once, bytes. */
const largest = 500_000_000;

function bytesOf(file: string): Uint8Array {
  try {
    const bytes = readFileSync(file);
    if (bytes.length > largest) throw new CommandError(`${file}: is larger than ${largest / 1e6} MB`);
    return bytes;
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${file}: cannot be read`);
  }
}

function valueOf<T>(result: Result<T>, about: string): T {
  if (result.ok) return result.value;
  const { place, problem, remedy } = result.fault;
  throw new CommandError(`${about}${place}: ${problem}; ${remedy}`);
}

export function dhcp(options: Options): object {
  const [file = ''] = options.positional;
  const { messages, problems } = valueOf(readDhcp(bytesOf(file), options.flag('hex')), `${file}: `);
  // of a file that holds messages what is wrong around them is told beside; without any it is all there is to say
  if (messages.length === 0 && problems[0]) throw new CommandError(`${file}: byte ${problems[0].offset}: ${problems[0].text}`);
  return { messages, ...(problems.length ? { problems } : {}) };
}

export function version(options: Options): object {
  const [first = '', second = ''] = options.positional;
  return { order: valueOf(versionOrder(first, second), 'version: ') };
}

export function wifi(options: Options): object {
  const name = options.text('ssid');
  if (name === undefined) throw new CommandError('--ssid: is missing');
  const type = options.choice('type', wifiTypes) ?? 'WPA';
  return { payload: valueOf(wifiCode({ name, type, key: options.text('key') ?? '', hidden: options.flag('hidden') }), 'wifi: ') };
}

export function merge(options: Options): object {
  const files = options.positional.map((name): ConfigText => ({ name, text: new TextDecoder().decode(bytesOf(name)) }));
  const { values, problems } = mergeConfig(files);
  return { values, problems };
}

/** Hz as they are told: thousandths are more than a clock keeps. */
const hz = (rate: number): number => Number(rate.toFixed(3));

export function edid(options: Options): object {
  const [file = ''] = options.positional;
  const bytes = valueOf(edidBytes(bytesOf(file)), `${file}: `);
  const { preferred, modes, name, ...said } = valueOf(readEdid(bytes), `${file}: `);
  return {
    ...{ manufacturer: said.manufacturer, product: said.product, name, year: said.year },
    preferred: preferred && {
      ...{ width: preferred.widthPx, height: preferred.heightPx, refreshHz: hz(preferred.refreshHz), clockMHz: preferred.clockMhz },
      ...(preferred.interlaced ? { interlaced: true } : {}),
    },
    modes: modes.map(({ widthPx, heightPx, refreshHz, interlaced, only420 }) => ({
      ...{ width: widthPx, height: heightPx, refreshHz: hz(refreshHz) },
      ...(interlaced ? { interlaced } : {}),
      ...(only420 ? { only420 } : {}),
    })),
    extensions: said.extensions,
    widthMm: said.widthMm,
    heightMm: said.heightMm,
    problems: said.problems,
  };
}

export function cvt(options: Options): object {
  const [width, height, refresh] = ['WIDTH', 'HEIGHT', 'REFRESH'].map((name, i) => {
    const text = options.positional[i] ?? '';
    const value = text.trim() === '' ? NaN : Number(text);
    const [least, most] = name === 'REFRESH' ? [10, 500] : [64, 16_384];
    if (!(value >= least && value <= most)) throw new CommandError(`${name}: “${text}” is not a number from ${least} to ${most}`);
    if (name !== 'REFRESH' && !Number.isInteger(value)) throw new CommandError(`${name}: “${text}” is not a whole number`);
    return value;
  }) as [number, number, number];
  const { clockMhz, totalWidthPx, totalLines, refreshHz, ...sync } = cvtOf(width, height, refresh, options.flag('reduced'));
  return { clockMHz: clockMhz, htotal: totalWidthPx, vtotal: totalLines, ...sync, refreshHz: hz(refreshHz) };
}

export function passes(options: Options): object {
  const port = options.choice('port', ports);
  if (!port) throw new CommandError('--port: is missing');
  const whole = (name: string) => {
    const value = options.needed(name, 64, 16_384);
    if (!Number.isInteger(value)) throw new CommandError(`--${name}: “${value}” is not a whole number`);
    return value;
  };
  const lanes = options.choice('lanes', ['1', '2', '4'] as const) ?? '4';
  const bits = options.choice('chroma', ['444', '420'] as const) === '420' ? 12 : 24;
  const { clockMhz } = cvtOf(whole('width'), whole('height'), options.needed('refresh', 10, 500), true);
  const neededGbps = (clockMhz * bits) / 1000;
  const availableGbps = (portRateGbps[port] * (port.startsWith('dp-') ? Number(lanes) : 4)) / 4;
  return { passes: neededGbps <= availableGbps, neededGbps, availableGbps, clockMHz: clockMhz };
}

/** Ports that have a rate of their own. */
export const ports = ['dvi', 'hdmi-1.4', 'hdmi-2.0', 'dp-hbr', 'dp-hbr2', 'dp-hbr3', 'usb-c-2-lane'] as const;
