import { cost, type FindingKind } from '../../finding.js';
import { setForPerson, setHere } from '../../setHere.js';

/** Call media by way of the host though the endpoint could carry it; points of MOS. */
export const callThroughHost: FindingKind = {
  kind: 'call media through the host although the endpoint could',
  bay: 'Workspace',
  weight: 'limited',
  limits: ['voice'],
  detect: (facts, { voice, wanted, way }) => {
    const { endpoint } = facts;
    const { host, endpoint: direct } = voice;
    if (!voice.counts || voice.carried !== 'host' || endpoint.clientKind === 'browser' || !host || !direct) return null;
    const gain = direct.mos - host.mos;
    if (gain < 0.1) return null;
    const short = wanted.voiceMosAtLeast ? wanted.voiceMosAtLeast - host.mos : 0;
    return {
      text: `Call sound goes by way of the host: voice ${host.mos.toFixed(1)} instead of ${direct.mos.toFixed(1)}`,
      cost: short > 0 ? cost.short(short / 2) : cost.risk + 20 * gain,
      costText: `${gain.toFixed(1)} voice points`,
      sure: way.rttKnown ? 'likely' : 'rests on an assumption',
      evidence: () => [
        { source: way.rtt.source, text: `round trip ${Math.round(way.rtt.value)} ms, half of it on the way to the host` },
        {
          source: 'computed',
          text: `voice ${host.mos.toFixed(1)} (R ${host.r.toFixed(0)}) through the host, ${direct.mos.toFixed(1)} (R ${direct.r.toFixed(0)}) on the endpoint, by ITU-T G.107`,
        },
      ],
      remedies: () => [
        setHere(facts, 'media.callOffload', true, (where) => `Offload call sound ${where}`),
        setForPerson(facts, 'media.callOffload', true, (whom) => `Offload it ${whom}`),
      ],
    };
  },
};
