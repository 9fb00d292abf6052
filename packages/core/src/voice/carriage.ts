import { voiceQuality, type VoiceQuality } from './eModel.js';

/** 20 ms of speech in a packet and 10 ms to take it in: common practice, no source. */
const packetMs = 30;
/** Two more codings and the mixing on the host: from memory, assumed. */
const hostProcessingMs = 40;
/** From our side on to the other party: assumed. */
const onwardMs = 20;

/** The way a call takes: round trip and jitter in ms, loss in percent. */
export interface VoicePath {
  rttMs: number;
  jitterMs: number;
  lossPercent: number;
  /** Over TCP a lost packet comes again one round trip later instead of not at all. */
  transport: 'udp' | 'tcp';
}

const bufferMs = (jitterMs: number) => Math.max(20, 2 * jitterMs);

/** A call carried inside the display session pays the session's delay twice, and the host's processing. */
export function voiceThroughHost({ rttMs, jitterMs, lossPercent, transport }: VoicePath): VoiceQuality {
  const waits = transport === 'tcp' && lossPercent > 0 ? rttMs * Math.min(1, lossPercent / 2) : 0;
  const delayMs = rttMs + 2 * bufferMs(jitterMs) + hostProcessingMs + packetMs + onwardMs + waits;
  const lost = transport === 'tcp' ? 0 : 100 * (1 - (1 - lossPercent / 100) ** 2);
  return voiceQuality(delayMs, lost, 'g711-plc');
}

/** A call handled on the endpoint (media offload) pays the direct path only. */
export const voiceOnEndpoint = ({ rttMs, jitterMs, lossPercent }: VoicePath): VoiceQuality =>
  voiceQuality(rttMs / 2 + bufferMs(jitterMs) + packetMs + onwardMs, lossPercent, 'g711-plc');

/** G.711 in 20 ms packets at the IP layer: 160 bytes of speech + RTP 12 + UDP 8 + IPv4 20, 50 times a second. */
export const callMbps = ((160 + 12 + 8 + 20) * 8 * 50) / 1e6;
