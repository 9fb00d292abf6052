import type { BootFacts } from './facts.js';

/** Rate towards a device where nobody says it, Mbit/s; common practice, no source. */
const usualMbps = 10;
const lineOf = ({ endpoint, location }: BootFacts) => (location.ownLines && endpoint.line) || location;

/** Rate towards the device with nobody else on the line, less framing, Mbit/s. */
export function rateOf(facts: BootFacts): number {
  const { lineKind, downMbps = usualMbps } = lineOf(facts);
  return downMbps * (1 - facts.assumed.lines[lineKind].framingShare);
}

/** A round trip over the line as it is declared, else as its kind usually has it, ms. */
export function roundTripMs(facts: BootFacts): number {
  const { lineKind, delayMs } = lineOf(facts);
  const { delayLowMs, delayHighMs } = facts.assumed.lines[lineKind];
  return delayMs ?? (delayLowMs + delayHighMs) / 2;
}
