import { doing, settingTo } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';

/** Call media by way of the host though the endpoint could carry it; points of MOS. */
export const callThroughHost: FindingKind = {
  kind: 'call media through the host although the endpoint could',
  bay: 'Workspace',
  weight: 'limited',
  limits: ['voice'],
  detect: ({ endpoint, location, person }, { voice, wanted, way }) => {
    if (!voice.counts || voice.carried !== 'host' || endpoint.clientKind === 'browser' || !voice.host || !voice.endpoint) return null;
    const gain = voice.endpoint.mos - voice.host.mos;
    if (gain < 0.1) return null;
    const short = wanted.voiceMosAtLeast ? wanted.voiceMosAtLeast - voice.host.mos : 0;
    return {
      text: `Call sound goes by way of the host: voice ${voice.host.mos.toFixed(1)} instead of ${voice.endpoint.mos.toFixed(1)}`,
      cost: short > 0 ? cost.short(short / 2) : cost.risk + 20 * gain,
      costText: `${gain.toFixed(1)} voice points`,
      sure: way.rttKnown ? 'likely' : 'rests on an assumption',
      evidence: [
        { source: way.rtt.source, text: `round trip ${Math.round(way.rtt.value)} ms, half of it on the way to the host` },
        {
          source: 'computed',
          text: `voice ${voice.host.mos.toFixed(1)} (R ${voice.host.r.toFixed(0)}) through the host, ${voice.endpoint.mos.toFixed(1)} (R ${voice.endpoint.r.toFixed(0)}) on the endpoint, by ITU-T G.107`,
        },
      ],
      remedies: () => [
        {
          text: `Offload call sound at ${location.name}`,
          change: doing(settingTo('media.callOffload', 'location', location.id, true)),
        },
        {
          text: 'Offload it for this person',
          change: doing(settingTo('media.callOffload', 'person', person.id, true)),
        },
      ],
    };
  },
};
