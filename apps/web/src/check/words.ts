import type { CheckWanted, Figures, Verdict } from '@underpass/contracts';
import { checkParts, checkRates, judgeCheck, type CheckPart } from '@underpass/core';
import type { Say } from '../ui/say.js';

export interface Told {
  part: CheckPart;
  name: string;
  figure: string;
  verdict: Verdict;
  word: string;
  more: string;
}

/** Which text tells a part to people who are no engineers, by what it came to. */
function keyOf(part: CheckPart, verdict: Verdict, f: Figures, wanted: CheckWanted): string | null {
  const { down, up } = checkRates(wanted);
  const lost = lostPercent(f);
  switch (part) {
    case 'quick':
      return verdict === 'blocked' ? null : `quick.${verdict}`;
    case 'steady':
      if (verdict === 'limited') return lost !== null && lost >= 0.5 ? 'steady.lost' : 'steady.held';
      return verdict === 'blocked' ? null : `steady.${verdict}`;
    case 'down':
    case 'up': {
      if (verdict === 'limited') return `${part}.limited`;
      const [rate, { plentyMbps }] = part === 'down' ? [f.downMbps ?? 0, down] : [f.upMbps ?? 0, up];
      return verdict === 'clear' ? `${part}.${rate >= plentyMbps ? 'plenty' : 'enough'}` : null;
    }
    case 'picture':
      return verdict === 'clear' || verdict === 'limited' ? `picture.${verdict}` : null;
  }
}

const lostPercent = ({ datagrams: d }: Figures) => (d?.passes && d.sent ? (100 * (d.lost ?? 0)) / d.sent : null);

/** The figure beside each part. */
function figureOf(part: CheckPart, f: Figures, verdict: Verdict, { t, figure }: Say): string {
  const { roundTrips: trips } = f;
  const lost = lostPercent(f) ?? 0;
  switch (part) {
    case 'quick':
      return trips ? `${figure(trips.medianMs)} ms` : '';
    case 'steady':
      return verdict === 'limited' && lost < 0.5 && trips
        ? `${figure(trips.p95Ms - trips.medianMs)} ms`
        : t('figure.lost', { percent: figure(lost) });
    case 'down':
      return `${figure(f.downMbps ?? 0)} Mbit/s`;
    case 'up':
      return `${figure(f.upMbps ?? 0)} Mbit/s`;
    case 'picture':
      return t('figure.frames', { rate: figure(f.scene?.averageFps ?? 0) });
  }
}

/** Why a part is not known, where something can be said about it. */
function whyNot(part: CheckPart, f: Figures): string | null {
  if (part === 'steady') return f.datagrams ? 'why.steady' : 'why.browser';
  return part === 'picture' ? 'why.picture' : null;
}

/** What each step found, for people who are no engineers, by what the crossings of the estate are judged by. A step not over yet is null. */
export function tell(f: Figures, wanted: CheckWanted, say: Say): (Told | null)[] {
  const judged = judgeCheck(f, wanted);
  const { t, figure } = say;
  return checkParts.map((part) => {
    const own = judged[part];
    const name = t(`part.${part}`);
    if (!own) return null;
    const { verdict, because } = own;
    const told = (key: string, values: Record<string, unknown>, shown: string): Told => {
      const [word = '', more = ''] = t(key, values).split('|');
      return { part, name, figure: shown, verdict, word, more };
    };
    if (because === 'too few') return told('too few', {}, '');
    const why = whyNot(part, f);
    const unknown: Told = { part, name, figure: '', verdict, word: t('not known'), more: why ? t(why) : '' };
    if (because === 'not measured') return unknown;
    const shown = figureOf(part, f, verdict, say);
    if (because === 'under load') return told('quick.load', { ms: figure(Math.max(f.addedDownMs ?? 0, f.addedUpMs ?? 0)) }, shown);
    const key = keyOf(part, verdict, f, wanted);
    return key ? told(key, { n: Math.max(1, Math.round(lostPercent(f) ?? 0)) }, shown) : { ...unknown, figure: shown };
  });
}

/** The headline and what helps: the worst thing first, in one sentence each. */
export function headline(
  told: readonly (Told | null)[],
  home: boolean,
  calls: boolean,
  { t }: Say,
): { verdict: Verdict; text: string; helps: string | null } {
  const bad = told.flatMap((part) => (part?.verdict === 'limited' ? [part.part] : []));
  const unknown = told.some((part) => part === null || part.verdict === 'unknown');
  const near = told.some((part) => part?.verdict === 'unknown' && part.figure !== '');
  const textOf = (part: CheckPart) => t(part === 'steady' && calls ? 'bad.calls' : `bad.${part}`);
  const [first, second] = bad;
  if (first === undefined)
    return unknown
      ? { verdict: 'unknown', text: t(near ? 'mostly near' : 'mostly unknown'), helps: null }
      : { verdict: 'clear', text: t('all fine'), helps: null };
  const rest = second ? textOf(second) : unknown ? '' : t('rest fine');
  return {
    verdict: 'limited',
    text: [textOf(first), rest].filter(Boolean).join(' '),
    helps: t(first === 'steady' && home ? 'help.steady home' : `help.${first}`),
  };
}
