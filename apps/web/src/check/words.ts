import type { Figures, Verdict } from '@underpass/contracts';

export interface Told {
  name: string;
  figure: string;
  verdict: Verdict;
  word: string;
  more: string;
}

const n = (value: number) => (value >= 10 ? String(Math.round(value)) : String(Math.round(value * 10) / 10));

/** What each step found, for people who are no engineers. Thresholds are those of office work and calls. */
export function tell(f: Figures): (Told | null)[] {
  const trips = f.roundTrips;
  const quick: Told | null = trips
    ? trips.samples < 20
      ? { name: 'How quick', figure: '', verdict: 'unknown', word: 'Too few answers', more: 'Try again when the line is quieter.' }
      : trips.medianMs <= 60
        ? { name: 'How quick', figure: `${n(trips.medianMs)} ms`, verdict: 'clear', word: 'Quick', more: 'You will not notice any delay.' }
        : {
            name: 'How quick',
            figure: `${n(trips.medianMs)} ms`,
            verdict: 'limited',
            word: trips.medianMs <= 150 ? 'A little slow' : 'Slow',
            more: trips.medianMs <= 150 ? 'You may notice it when you type fast.' : 'Typing will lag behind.',
          }
    : null;
  const udp = f.datagrams;
  const lost = udp?.passes && udp.sent ? (100 * (udp.lost ?? 0)) / udp.sent : null;
  const spread = trips ? trips.p95Ms - trips.medianMs : 0;
  const steady: Told | null = !udp
    ? trips && f.downMbps !== undefined
      ? { name: 'How steady', figure: '', verdict: 'unknown', word: 'Not known', more: 'This browser cannot measure it.' }
      : null
    : lost === null
      ? {
          name: 'How steady',
          figure: '',
          verdict: 'unknown',
          word: 'Not known',
          more: 'One kind of traffic does not pass here, so it could not be measured.',
        }
      : lost > 1
        ? {
            name: 'How steady',
            figure: `${n(lost)} % lost`,
            verdict: 'limited',
            word: 'Not steady',
            more: `${Math.max(1, Math.round(lost))} of every 100 pieces get lost.`,
          }
        : spread > 40
          ? {
              name: 'How steady',
              figure: `${n(spread)} ms`,
              verdict: 'limited',
              word: 'Not steady',
              more: 'Pieces are held up now and then.',
            }
          : { name: 'How steady', figure: `${n(lost)} % lost`, verdict: 'clear', word: 'Steady', more: 'Almost nothing gets lost.' };
  const rate = (name: string, mbps: number | undefined, least: number, plenty: number, words: [string, string, string]): Told | null =>
    mbps === undefined
      ? null
      : {
          name,
          figure: `${n(mbps)} Mbit/s`,
          verdict: mbps >= least ? 'clear' : 'limited',
          word: mbps >= plenty ? 'Plenty' : mbps >= least ? 'Enough' : 'Too little',
          more: mbps >= plenty ? words[0] : mbps >= least ? words[1] : words[2],
        };
  const scene = f.scene;
  const picture: Told | null = f.browser
    ? scene
      ? {
          name: 'Picture',
          figure: `${n(scene.averageFps)} frames/s`,
          verdict: scene.averageFps >= 24 ? 'clear' : 'limited',
          word: scene.averageFps >= 24 ? 'Good' : 'Slow',
          more: scene.averageFps >= 24 ? 'Your browser keeps up.' : 'Your browser draws slowly on this device.',
        }
      : { name: 'Picture', figure: '', verdict: 'unknown', word: 'Not known', more: 'This browser draws no moving picture.' }
    : null;
  return [
    quick,
    steady,
    rate('Towards you', f.downMbps, 5, 20, ['Enough for large screens.', 'Enough for one screen.', 'The picture will stutter.']),
    rate('From you', f.upMbps, 1, 5, ['Enough for video calls.', 'Enough for a video call.', 'Others will see you freeze.']),
    picture,
  ];
}

/** The headline and what helps: the worst thing first, in one sentence each. */
export function headline(told: readonly (Told | null)[], home: boolean): { verdict: Verdict; text: string; helps: string | null } {
  const bad = told.map((part, i) => (part?.verdict === 'limited' ? i : -1)).filter((i) => i >= 0);
  const unknown = told.some((part) => part === null || part.verdict === 'unknown');
  const texts = [
    'Typing will feel slow.',
    'Your calls will break up now and then.',
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
      ? { verdict: 'unknown', text: 'Most of it is fine. Something could not be measured.', helps: null }
      : { verdict: 'clear', text: 'Everything is fine from where you sit.', helps: null };
  const rest = bad.length === 1 ? (unknown ? '' : ' Everything else is fine.') : ` ${texts[bad[1] as number]}`;
  return { verdict: 'limited', text: `${texts[first]}${rest}`, helps: helps[first] ?? null };
}
