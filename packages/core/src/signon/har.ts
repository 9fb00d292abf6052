import type { Har, SignonRule, SignonStep } from '@underpass/contracts';
import { stepOf } from './harRules.js';

/** Idle time between requests that is told; below it a pause is nothing, ms. Common practice, no source. */
const gapFromMs = 1000;
/** Steps in which a person does something: the pause before their first request is the person's time. */
const byPerson: ReadonlySet<SignonStep> = new Set(['password', 'second factor', 'choose']);

/** A step of the sign-on as a recording shows it; times in ms, from the start of the recording. */
export interface HarStep {
  name: SignonStep;
  startMs: number;
  /** From the start of its first request to the end of its last. */
  durationMs: number;
  requests: number;
  /** Time of the person before its first request. */
  personMs: number;
  dnsMs: number;
  connectMs: number;
  tlsMs: number;
  failed: number;
}
/** A request without anything secret: no query, no headers, no body, and no part of the path that could be a token. */
export interface CleanRequest {
  method: string;
  host: string;
  path: string;
  status: number;
  startMs: number;
  durationMs: number;
}
/** A recording (HAR 1.2) read as steps of the sign-on, ms. */
export interface HarReading {
  startedAt: string;
  totalMs: number;
  steps: HarStep[];
  criticalPath: SignonStep[];
  slowest: SignonStep | null;
  requests: number;
  redirects: number;
  failed: number;
  /** Requests over a connection that was open already. */
  reused: number;
  dnsMs: number;
  connectMs: number;
  tlsMs: number;
  /** Times in which nothing was under way. */
  gaps: { afterMs: number; durationMs: number; before: SignonStep | null }[];
  /** Requests that start earlier than one before them by more than a second: the clock was set back while recording. */
  clockSteps: number;
  /** Requests that no rule gives to a step, the longest first. */
  unassigned: CleanRequest[];
  failures: CleanRequest[];
}

const positive = (value: number | null | undefined): number => (value !== undefined && value !== null && value > 0 ? value : 0);
const isRedirect = (status: number) => [301, 302, 303, 307, 308].includes(status);

/** Host and path of an address; parts that may be tokens, names or addresses are cut out. */
export function cleanAddress(url: string): { host: string; path: string } {
  const match = /^[a-z][a-z0-9+.-]*:\/\/([^/?#]*)([^?#]*)/i.exec(url);
  const host = (match?.[1] ?? '').replace(/^.*@/, '').slice(0, 200);
  const path = (match?.[2] ?? url.split(/[?#]/)[0] ?? '')
    .split('/')
    .map((part) => (part.length > 24 || /[@%]/.test(part) || (/\d/.test(part) && part.length > 12) ? '…' : part))
    .join('/')
    .slice(0, 200);
  return { host, path: path || '/' };
}

/**
 * Reads a sign-in recorded as HAR 1.2 (the HTTP Archive format; `connect` includes `ssl`, −1 stands for "does not apply").
 * Nothing of headers, cookies, queries and bodies gets into the result.
 */
export function readHar(har: Har, rules: readonly SignonRule[]): HarReading {
  const dated = har.log.entries.map((entry, i) => ({ entry, at: Date.parse(entry.startedDateTime), i }));
  const clockSteps = dated.filter(({ at }, i) => i > 0 && at < (dated[i - 1] as { at: number }).at - 1000).length;
  const ordered = [...dated].sort((a, b) => a.at - b.at || a.i - b.i);
  const zero = ordered[0]?.at ?? 0;
  const steps = new Map<SignonStep, HarStep & { endMs: number }>();
  const unassigned: CleanRequest[] = [];
  const failures: CleanRequest[] = [];
  const busy: { start: number; end: number; step: SignonStep | null }[] = [];
  const sums = { redirects: 0, reused: 0, dnsMs: 0, connectMs: 0, tlsMs: 0, totalMs: 0 };
  for (const { entry, at } of ordered) {
    const startMs = at - zero;
    const durationMs = positive(entry.time);
    const { host, path } = cleanAddress(entry.request.url);
    const full = /^[a-z]+:\/\/[^/?#]*([^?#]*)/i.exec(entry.request.url)?.[1] ?? path;
    const step = stepOf(rules, entry.request.method, host, full);
    const { status } = entry.response;
    const clean: CleanRequest = { method: entry.request.method, host, path, status, startMs, durationMs };
    const timings = entry.timings;
    const tlsMs = positive(timings.ssl);
    const connectMs = Math.max(0, positive(timings.connect) - tlsMs);
    const dnsMs = positive(timings.dns);
    const failed = status <= 0 || status >= 400;
    if (failed) failures.push(clean);
    if (isRedirect(status)) sums.redirects++;
    if (positive(timings.connect) === 0 && !failed) sums.reused++;
    sums.dnsMs += dnsMs;
    sums.connectMs += connectMs;
    sums.tlsMs += tlsMs;
    sums.totalMs = Math.max(sums.totalMs, startMs + durationMs);
    busy.push({ start: startMs, end: startMs + durationMs, step });
    if (!step) {
      unassigned.push(clean);
      continue;
    }
    const known = steps.get(step);
    if (known) {
      known.endMs = Math.max(known.endMs, startMs + durationMs);
      known.requests++;
      known.dnsMs += dnsMs;
      known.connectMs += connectMs;
      known.tlsMs += tlsMs;
      known.failed += failed ? 1 : 0;
    } else
      steps.set(step, {
        name: step,
        startMs,
        endMs: startMs + durationMs,
        durationMs: 0,
        requests: 1,
        personMs: 0,
        dnsMs,
        connectMs,
        tlsMs,
        failed: failed ? 1 : 0,
      });
  }
  const gaps = gapsOf(busy);
  for (const gap of gaps) {
    const next = gap.before && byPerson.has(gap.before) ? steps.get(gap.before) : undefined;
    if (next && Math.abs(gap.afterMs + gap.durationMs - next.startMs) < 1) next.personMs = gap.durationMs;
  }
  const list = [...steps.values()].map(({ endMs, ...step }) => ({ ...step, durationMs: endMs - step.startMs }));
  const slowest = list.reduce<HarStep | null>((most, step) => (most && most.durationMs >= step.durationMs ? most : step), null);
  return {
    startedAt: ordered[0]?.entry.startedDateTime ?? '',
    ...sums,
    steps: list,
    criticalPath: criticalSteps(list),
    slowest: slowest?.name ?? null,
    requests: ordered.length,
    failed: failures.length,
    gaps,
    clockSteps,
    unassigned: unassigned.sort((a, b) => b.durationMs - a.durationMs),
    failures,
  };
}

/** Times with nothing under way, and the step that came after each. */
function gapsOf(busy: readonly { start: number; end: number; step: SignonStep | null }[]): HarReading['gaps'] {
  const gaps: HarReading['gaps'] = [];
  let end = 0;
  for (const { start, end: until, step } of busy) {
    if (start - end >= gapFromMs) gaps.push({ afterMs: end, durationMs: start - end, before: step });
    end = Math.max(end, until);
  }
  return gaps;
}

/**
 * Steps that decided when it was over: from the one that ended last back through whatever ended last before each began; where
 * everything before was still under way, through the one that began last.
 */
function criticalSteps(steps: readonly HarStep[]): SignonStep[] {
  const endOf = (step: HarStep) => step.startMs + step.durationMs;
  const path: SignonStep[] = [];
  let here = steps.reduce<HarStep | null>((last, step) => (last && endOf(last) >= endOf(step) ? last : step), null);
  while (here) {
    path.push(here.name);
    const { startMs } = here;
    const earlier = steps.filter((step) => step.startMs < startMs && !path.includes(step.name));
    const over = earlier.filter((step) => endOf(step) <= startMs + 1);
    here = over.length
      ? over.reduce((last, step) => (endOf(step) > endOf(last) ? step : last))
      : earlier.reduce<HarStep | null>((last, step) => (last && last.startMs >= step.startMs ? last : step), null);
  }
  return path.reverse();
}

/** The steps as seconds, for a measurement: what the person took belongs to the step. */
export const secondsOf = (reading: Pick<HarReading, 'steps'>): Partial<Record<SignonStep, number>> =>
  Object.fromEntries(reading.steps.map(({ name, durationMs, personMs }) => [name, Math.round(durationMs + personMs) / 1000]));
