import { supposing } from '../../../change/index.js';
import { datagramsOf } from '../../../picture/index.js';
import { lineOf } from '../../line.js';
import { setHere } from '../../setHere.js';
import { cost, figure, ms, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { lossAtMost } from '../../thresholds.js';

/** Below this a loss is no news, percent; common practice, no source. */
const noticedPercent = 1;

/** Loss on the way takes frames, adds delay, or is above what a session stands, percent. */
export const lineLoses: FindingKind = {
  kind: 'the way loses',
  bay: 'Link',
  weight: 'limited',
  limits: ['frames', 'sticking', 'delay', 'loss', 'voice'],
  detect: (facts, { way, frames, wanted, session, settings, demand, aspects }) => {
    const { location, endpoint } = facts;
    const { loss } = way;
    const most = lossAtMost(wanted);
    const takesFrames = frames.limiter === 'loss' && aspects.frames === 'limited';
    const sticks = aspects.sticking === 'limited' && frames.resentWorstMs.value > way.spreadMs.value;
    const slows = sticks || (aspects.delay === 'limited' && frames.resentMs.value > 10);
    if (endpoint.connection === 'wifi' && loss.value <= most && !takesFrames && !slows) return null;
    if (loss.value <= noticedPercent && !takesFrames && !slows) return null;
    const each = datagramsOf((demand.p95Mbps * 1e6 * frames.quality) / Math.max(1, frames.cap));
    return {
      text:
        loss.value > most
          ? `${figure(loss.value)} packets in 100 are lost on the way, a session stands ${figure(most)}: it breaks off again and again`
          : takesFrames || Math.round(frames.resentWorstMs.value) === 0
            ? `${figure(loss.value)} packets in 100 are lost on the way: ${plural(Math.round(frames.value), 'frame')} are left in time`
            : `${figure(loss.value)} packets in 100 are lost on the way: ${ms(frames.resentWorstMs.value)} more in the worst twentieth of the frames`,
      cost:
        loss.value > most
          ? cost.short(loss.value / most / 4)
          : takesFrames
            ? cost.frames(frames.value, wanted.framesAtLeast)
            : slows
              ? cost.short(0.1)
              : cost.risk + 40,
      costText: `${figure(loss.value)} % lost`,
      sure: way.lossKnown ? 'sure' : 'rests on an assumption',
      limits: [
        ...(loss.value > most ? (['loss'] as const) : []),
        ...(takesFrames ? (['frames'] as const) : []),
        ...(slows ? (['delay', 'sticking'] as const) : []),
        ...(loss.value > noticedPercent ? (['voice'] as const) : []),
      ],
      evidence: () => [
        {
          source: loss.source,
          text: `${figure(loss.value)} % of ${loss.samples ?? 0} lost (${figure(loss.low)} to ${figure(loss.high)}), ${loss.note}`,
        },
        {
          source: 'computed',
          text: `${each} datagrams a frame, mended by ${session.transport === 'tcp' ? 'TCP' : settings['transport.repair']}: ${plural(Math.round(frames.value), 'frame')}, ${ms(frames.resentMs.value)} added on average, ${ms(frames.resentWorstMs.value)} in the worst twentieth`,
        },
        { source: 'assumed', text: `a session stands ${figure(most)} %; common practice` },
      ],
      remedies: () => [
        ...(session.transport === 'udp' && settings['transport.repair'] !== 'forward'
          ? [setHere(facts, 'transport.repair', 'forward', (where) => `Bring repair data along with the picture ${where}`)]
          : []),
        ...(session.transport === 'udp' && settings['transport.repair'] === 'none'
          ? [setHere(facts, 'transport.repair', 'resend', (where) => `Send again what was lost ${where}`)]
          : []),
        ...(session.transportBecause === 'setting' ? [setHere(facts, 'transport.prefer', 'udp', (where) => `Prefer UDP ${where}`)] : []),
        {
          text: 'Have the line mended',
          change: supposing({ suppose: 'line', ...lineOf({ location, endpoint }), lossPercent: 0 }),
          ask: 'show the carrier this figure',
        },
      ],
    };
  },
};
