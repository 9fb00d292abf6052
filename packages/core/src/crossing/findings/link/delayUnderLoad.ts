import { doing, noChange, settingTo } from '../../../change/index.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** Grades of added delay: 30 good, 60 fair, 200 poor; common practice, no source. */
export const addedDelayGrade = (addedMs: number): 'good' | 'fair' | 'poor' | 'very poor' =>
  addedMs <= 30 ? 'good' : addedMs <= 60 ? 'fair' : addedMs <= 200 ? 'poor' : 'very poor';

/** Delay that a full line adds, ms. */
export const delayUnderLoad: FindingKind = {
  kind: 'delay under load',
  bay: 'Link',
  weight: 'risk',
  detect: ({ evidence, location, endpoint }, { delay, wanted, way }) => {
    const down = evidence.addedDownMs?.value ?? 0;
    const up = evidence.addedUpMs?.value ?? 0;
    const added = Math.max(down, up);
    const taken = up >= down ? evidence.addedUpMs : evidence.addedDownMs;
    if (added <= 60 || !taken) return null;
    const busy = delay.value + added;
    const rate = Math.floor((way.down?.value ?? 20) * 0.4);
    return {
      text: `Good until somebody ${up >= down ? 'uploads' : 'downloads'}: then ${ms(busy)} from key to pixel`,
      cost: cost.risk + Math.min(60, added / 4) + (busy > wanted.keyToPixelMs && delay.value <= wanted.keyToPixelMs ? 20 : 0),
      costText: `${ms(added)} now and then`,
      sure: 'sure',
      evidence: [{ source: 'measured', text: `${ms(added)} added while the line was full: ${addedDelayGrade(added)}, ${taken.by}` }],
      remedies: [
        {
          text: `Cap a session at ${Math.max(1, rate)} Mbit/s`,
          change: doing(
            settingTo(
              'transport.capMbps',
              location.ownLines ? 'endpoint' : 'location',
              location.ownLines ? endpoint.id : location.id,
              Math.max(1, rate),
            ),
          ),
        },
        { text: `Shape the traffic at ${location.name}`, change: noChange, ask: `takes away up to ${ms(added)} when the line is busy` },
      ],
    };
  },
};
