import { noChange } from '../../../change/index.js';
import { setHere } from '../../setHere.js';
import { cost, ms, type FindingKind } from '../../finding.js';

/** Grades of added delay: 30 good, 60 fair, 200 poor; common practice, no source. */
export const addedDelayGrade = (addedMs: number): 'good' | 'fair' | 'poor' | 'very poor' =>
  addedMs <= 30 ? 'good' : addedMs <= 60 ? 'fair' : addedMs <= 200 ? 'poor' : 'very poor';

/** Delay that a full line adds, ms. */
export const delayUnderLoad: FindingKind = {
  kind: 'delay under load',
  bay: 'Link',
  weight: 'limited',
  limits: ['delay', 'voice'],
  detect: (facts, { delay, wanted, way, aspects }) => {
    const { evidence, location } = facts;
    const down = evidence.addedDownMs?.value ?? 0;
    const up = evidence.addedUpMs?.value ?? 0;
    const added = Math.max(down, up);
    const taken = up >= down ? evidence.addedUpMs : evidence.addedDownMs;
    if (added <= 60 || !taken) return null;
    const full = delay.idleMs + added;
    const slows = way.busyMs.value > 5 && delay.idleMs <= wanted.keyToPixelMs && aspects.delay === 'limited';
    const rate = Math.floor((way.down?.value ?? 20) * 0.4);
    return {
      text: `Good until somebody ${up >= down ? 'uploads' : 'downloads'}: then ${ms(full)} from key to pixel`,
      cost: slows
        ? cost.short((delay.value / wanted.keyToPixelMs - 1) / 2)
        : cost.risk + Math.min(60, added / 4) + (full > wanted.keyToPixelMs && delay.value <= wanted.keyToPixelMs ? 20 : 0),
      limits: slows ? ['delay', 'voice'] : ['voice'],
      costText: `${ms(added)} now and then`,
      sure: 'sure',
      evidence: () => [
        { source: 'measured', text: `${ms(added)} added while the line was full: ${addedDelayGrade(added)}, ${taken.by}` },
        {
          source: 'computed',
          text: `idle ${ms(delay.idleMs)}, full ${ms(full)}; the busy hour fills ${Math.round(100 * Math.max(way.busyShare.down, way.busyShare.up))} % of it: ${ms(delay.value)}`,
        },
      ],
      remedies: () => [
        setHere(facts, 'transport.capMbps', Math.max(1, rate), (where) => `Cap a session ${where} at ${Math.max(1, rate)} Mbit/s`),
        { text: `Shape the traffic at ${location.name}`, change: noChange, ask: `takes away up to ${ms(added)} when the line is busy` },
      ],
    };
  },
};
