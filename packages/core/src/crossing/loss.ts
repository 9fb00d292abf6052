import type { Datagrams, LineKind, RoundTrips } from '@underpass/contracts';
import { assumed, between, type Estimate } from '../units/index.js';
import type { Assumed } from '../assumed/index.js';
import { shareInterval } from '../link/index.js';
import { aged, type Taken } from '../evidence/index.js';
import type { CrossingFacts } from './facts.js';

/** The interval of a loss is the same for every crossing that shares the measurement, so it is remembered. */
const intervals = new WeakMap<object, Estimate>();
function counted(taken: Taken<Datagrams> | Taken<RoundTrips>, sent: number, lost: number): Estimate {
  let known = intervals.get(taken.value);
  // the same figures may come from somebody else
  if (known?.note !== taken.note) known = undefined;
  if (!known) {
    const { low, high } = shareInterval(sent, lost);
    intervals.set(taken.value, (known = between((100 * lost) / sent, low * 100, high * 100, 'measured', taken.note, sent)));
  }
  return known;
}

type Unruled = Record<'wired' | 'wifi', Record<LineKind, Estimate>>;
const unruled = new WeakMap<Assumed, Unruled>();
/** What the kind of line, and Wi-Fi before it, do not rule out: made once for an estate. */
function unruledBy(by: Assumed): Unruled {
  let known = unruled.get(by);
  if (!known) {
    const kinds = (more: number) =>
      Object.fromEntries(
        Object.entries(by.lines).map(([kind, { words, lossHighPercent }]) => [
          kind,
          assumed(0, 0, lossHighPercent + more, `${words}; common practice, no source`),
        ]),
      ) as Record<LineKind, Estimate>;
    unruled.set(by, (known = { wired: kinds(0), wifi: kinds(by.wifi.lossHighPercent) }));
  }
  return known;
}

/**
 * Loss on the way in percent: of datagrams where they were counted, else of pings; the worse of the two where both were. Where neither
 * was, what the kind of line does not rule out.
 */
export function lossOf({ evidence, line, endpoint, estate }: CrossingFacts): Estimate {
  const { datagrams, roundTrips } = evidence;
  const sent = datagrams?.value.passes ? datagrams.value.sent : undefined;
  const ofDatagrams = datagrams && sent ? counted(datagrams, sent, Math.min(sent, datagrams.value.lost ?? 0)) : null;
  const pings = roundTrips ? roundTrips.value.samples + roundTrips.value.lost : 0;
  const ofPings = roundTrips && pings > 0 && showLoss(roundTrips) ? counted(roundTrips, pings, roundTrips.value.lost) : null;
  // pings that all came back prove less than datagrams that did
  const taken = ofDatagrams && (!ofPings || ofPings.value <= ofDatagrams.value) ? ofDatagrams : ofPings;
  const unmeasured = unruledBy(estate.assumed)[endpoint.connection === 'wired' ? 'wired' : 'wifi'][line.lineKind];
  const from = taken === ofDatagrams ? datagrams : roundTrips;
  if (!taken || !from) return unmeasured;
  return aged(ofThisDesk(taken, from, endpoint.connection, estate.assumed.wifi.lossHighPercent), from.weight ?? 1, unmeasured);
}

/**
 * Whether round trips would show that something is lost. Where TCP sends again what is lost, none is missing, but the one that was sent
 * again takes two: found missing at the earliest by the answer to the next one [RFC 8985 section 6], it comes a round trip later.
 * The longest shorter than twice the shortest says that none was lost; a longer one may have been or not, and how many is not known.
 */
const showLoss = ({ value: { lost, minMs, maxMs }, sentAgain }: Taken<RoundTrips>): boolean =>
  !sentAgain || lost > 0 || (maxMs !== undefined && maxMs < 2 * minMs);

/** What was counted, for a device that may be connected otherwise than the one that counted. */
function ofThisDesk(
  counted: Estimate,
  { own, medium }: Taken<unknown>,
  connection: CrossingFacts['endpoint']['connection'],
  ofWifi: number,
): Estimate {
  if (own || medium === undefined || medium === connection) return counted;
  const { value, low, high, note, samples } = counted;
  // another one's Wi-Fi may have lost it; another one's cable proves nothing of this one's Wi-Fi
  if (medium === 'wifi') return between(0, 0, high, 'measured', note, samples);
  return between(value, low, high + ofWifi, 'measured', note, samples);
}
