import { voiceQuality, type VoiceCodec, type VoiceQuality } from './eModel.js';

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
  /** How far the worst twentieth of the packets comes after the median, ms. */
  spreadMs?: number;
  lossPercent: number;
  /** Over TCP a lost packet comes again one round trip later instead of not at all. */
  transport: 'udp' | 'tcp';
  /** How long the sound of a session waits at least, ms; 40 where it is left out. */
  waitsMs?: number;
  /** How speech is coded inside the session. */
  codec?: VoiceCodec;
}

const bufferMs = (jitterMs: number) => Math.max(20, 2 * jitterMs);

/** Sound of a session waits in a buffer of its own, where no setting says how long: 20 to 60 ms; common practice, no source. */
const sessionBufferMs = 40;
/** From the host on to the service, there and back, and its buffer: data centre to data centre; assumed. */
const serviceBufferMs = 20;

/** Longest that a play-out buffer waits, ms; common practice, no source. */
const mostBufferMs = 60;
/** Part of the packets that comes too late to be heard, percent: one in twenty is later than the spread, as far as no buffer waits for it. */
const lateShare = ({ spreadMs = 0 }: VoicePath, waitsMs = 0): number =>
  5 * Math.min(1, Math.max(0, spreadMs - Math.max(mostBufferMs, waitsMs)) / mostBufferMs);
const together = (a: number, b: number): number => 100 * (1 - (1 - a / 100) * (1 - b / 100));

/**
 * A call carried inside the display session, mouth to ear one way: half the session's round trip, its sound buffer, the host's in and out,
 * and on to the service. The loss of the session's leg counts once: the other party is taken to sit at no session.
 */
export function voiceThroughHost(path: VoicePath): VoiceQuality {
  const { rttMs, jitterMs, lossPercent, transport, waitsMs = sessionBufferMs, codec = 'g711-plc' } = path;
  const waits = transport === 'tcp' && lossPercent > 0 ? rttMs * Math.min(1, lossPercent / 2) : 0;
  const delayMs = rttMs / 2 + Math.max(waitsMs, bufferMs(jitterMs)) + hostProcessingMs + packetMs + serviceBufferMs + onwardMs + waits;
  const lost = transport === 'tcp' ? lateShare(path, waitsMs) : together(lossPercent, lateShare(path, waitsMs));
  return voiceQuality(delayMs, lost, codec);
}

/** A call handled on the endpoint (media offload) pays the direct path only. */
export const voiceOnEndpoint = (path: VoicePath): VoiceQuality =>
  voiceQuality(path.rttMs / 2 + bufferMs(path.jitterMs) + packetMs + onwardMs, together(path.lossPercent, lateShare(path)), 'g711-plc');

/** G.711 in 20 ms packets at the IP layer: 160 bytes of speech + RTP 12 + UDP 8 + IPv4 20, 50 times a second. */
export const callMbps = ((160 + 12 + 8 + 20) * 8 * 50) / 1e6;
