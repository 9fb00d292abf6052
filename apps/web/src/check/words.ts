import type { CheckWanted, Figures, Verdict } from '@underpass/contracts';
import { checkParts, checkRates, judgeCheck, type CheckPart } from '@underpass/core';

export interface Told {
  name: string;
  figure: string;
  verdict: Verdict;
  word: string;
  more: string;
}

const n = (value: number) => (value >= 10 ? String(Math.round(value)) : String(Math.round(value * 10) / 10));

type Say = readonly [word: string, more: string];
const steps = ['How quick', 'How steady', 'Towards you', 'From you', 'Picture'];
const notKnown: Record<CheckPart, string> = {
  quick: '',
  steady: 'One kind of traffic does not pass here, so it could not be measured.',
  down: '',
  up: '',
  picture: 'This browser draws no moving picture.',
};

/** How each part is told to people who are no engineers, by what it came to. */
function sayings(f: Figures, wanted: CheckWanted): Record<CheckPart, Partial<Record<Verdict, Say>>> {
  const { down, up } = checkRates(wanted);
  const plenty = (mbps = 0, { plentyMbps }: typeof down) => mbps >= plentyMbps;
  const lost = lostPercent(f);
  return {
    quick: {
      clear: ['Quick', 'You will not notice any delay.'],
      unknown: ['A little slow', 'You may notice it when you type fast.'],
      limited: ['Slow', 'Typing will lag behind.'],
    },
    steady: {
      clear: ['Steady', 'Almost nothing gets lost.'],
      unknown: ['Not sure', 'A little gets lost; too little was measured to say whether you will notice.'],
      limited:
        lost !== null && lost >= 0.5
          ? ['Not steady', `${Math.max(1, Math.round(lost))} of every 100 pieces get lost.`]
          : ['Not steady', 'Pieces are held up now and then.'],
    },
    down: {
      clear: plenty(f.downMbps, down) ? ['Plenty', 'Enough for large screens.'] : ['Enough', 'Enough for one screen.'],
      limited: ['Too little', 'The picture will stutter.'],
    },
    up: {
      clear: plenty(f.upMbps, up) ? ['Plenty', 'Enough for video calls.'] : ['Enough', 'Enough for a video call.'],
      limited: ['Too little', 'Others will see you freeze.'],
    },
    picture: { clear: ['Good', 'Your browser keeps up.'], limited: ['Slow', 'Your browser draws slowly on this device.'] },
  };
}

const lostPercent = ({ datagrams: d }: Figures) => (d?.passes && d.sent ? (100 * (d.lost ?? 0)) / d.sent : null);

/** The figure beside each part. */
function figureOf(part: CheckPart, f: Figures, verdict: Verdict): string {
  const { roundTrips: trips } = f;
  const lost = lostPercent(f) ?? 0;
  switch (part) {
    case 'quick':
      return trips ? `${n(trips.medianMs)} ms` : '';
    case 'steady':
      return verdict === 'limited' && lost < 0.5 && trips ? `${n(trips.p95Ms - trips.medianMs)} ms` : `${n(lost)} % lost`;
    case 'down':
      return `${n(f.downMbps ?? 0)} Mbit/s`;
    case 'up':
      return `${n(f.upMbps ?? 0)} Mbit/s`;
    case 'picture':
      return `${n(f.scene?.averageFps ?? 0)} frames/s`;
  }
}

/** What each step found, for people who are no engineers, by what the crossings of the estate are judged by. A step not over yet is null. */
export function tell(f: Figures, wanted: CheckWanted): (Told | null)[] {
  const judged = judgeCheck(f, wanted);
  const said = sayings(f, wanted);
  return checkParts.map((part, i) => {
    const own = judged[part];
    const name = steps[i] ?? '';
    if (!own) return null;
    const { verdict, because } = own;
    if (because === 'too few') return { name, figure: '', verdict, word: 'Too few answers', more: 'Try again when the line is quieter.' };
    if (because === 'not measured')
      return {
        name,
        figure: '',
        verdict,
        word: 'Not known',
        more: part === 'steady' && !f.datagrams ? 'This browser cannot measure it.' : notKnown[part],
      };
    if (because === 'under load') {
      const addedMs = Math.max(f.addedDownMs ?? 0, f.addedUpMs ?? 0);
      const more = `While somebody fills the line it takes ${n(addedMs)} ms longer.`;
      return { name, figure: figureOf(part, f, verdict), verdict, word: 'Quick when quiet', more };
    }
    const [word, more] = said[part][verdict] ?? ['Not known', notKnown[part]];
    return { name, figure: figureOf(part, f, verdict), verdict, word, more };
  });
}

/** The headline and what helps: the worst thing first, in one sentence each. */
export function headline(
  told: readonly (Told | null)[],
  home: boolean,
  calls = true,
): { verdict: Verdict; text: string; helps: string | null } {
  const bad = told.map((part, i) => (part?.verdict === 'limited' ? i : -1)).filter((i) => i >= 0);
  const unknown = told.some((part) => part === null || part.verdict === 'unknown');
  const near = told.some((part) => part?.verdict === 'unknown' && part.figure !== '');
  const texts = [
    'Typing will feel slow.',
    calls ? 'Your calls will break up now and then.' : 'The picture will stick now and then.',
    'The picture will stutter.',
    'Others will see you freeze in calls.',
    'Moving pictures will be slow.',
  ];
  const helps = [
    'nothing on your side; your help desk can see this figure and look for a shorter way.',
    home
      ? 'plug your device into the router with a cable, or sit closer to it. Then check again, it takes 40 seconds.'
      : 'a cable instead of Wi-Fi, or a place closer to the access point. Then check again.',
    'close other downloads, or wait until others are done. Then check again.',
    'close what uploads, such as photo backups, or turn your camera picture off.',
    'the installed program instead of the browser; ask your help desk.',
  ];
  const first = bad[0];
  if (first === undefined)
    return unknown
      ? {
          verdict: 'unknown',
          text: `Most of it is fine. Something ${near ? 'is near what your work needs' : 'could not be measured'}.`,
          helps: null,
        }
      : { verdict: 'clear', text: 'Everything is fine from where you sit.', helps: null };
  const rest = bad.length === 1 ? (unknown ? '' : ' Everything else is fine.') : ` ${texts[bad[1] as number]}`;
  return { verdict: 'limited', text: `${texts[first]}${rest}`, helps: helps[first] ?? null };
}
