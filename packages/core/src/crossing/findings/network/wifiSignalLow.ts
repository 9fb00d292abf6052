import { asIf, supposing } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { wifiSignal } from '../../../link/index.js';

/** Wi-Fi signal below what voice and display want, dBm. */
export const wifiSignalLow: FindingKind = {
  kind: 'Wi-Fi signal too low',
  bay: 'Local network',
  weight: 'risk',
  detect: ({ endpoint, evidence }) => {
    const dbm = endpoint.connection === 'wifi' ? endpoint.wifiSignalDbm : undefined;
    if (dbm === undefined || dbm >= wifiSignal.goodDbm) return null;
    const jitter = evidence.roundTrips?.value;
    return {
      text:
        dbm < wifiSignal.poorDbm
          ? `Wi-Fi arrives at ${dbm} dBm, which is poor: it sticks every few seconds`
          : `Wi-Fi arrives at ${dbm} dBm, wanted is ${wifiSignal.goodDbm} or more`,
      cost: cost.risk + (wifiSignal.goodDbm - dbm) * 4,
      costText: `${wifiSignal.goodDbm - dbm} dB`,
      sure: 'likely',
      evidence: () => [
        { source: endpoint.reportedAt ? 'reported' : 'declared', text: `signal ${dbm} dBm` },
        ...(jitter
          ? [{ source: 'measured' as const, text: `P95 ${Math.round(jitter.p95Ms)} ms over a median of ${Math.round(jitter.medianMs)}` }]
          : []),
      ],
      remedies: () => [
        {
          text: 'Use a cable',
          change: {
            patches: [],
            hypotheses: [
              ...asIf('endpoint', endpoint.id, { connection: 'wired' }).hypotheses,
              { suppose: 'line', kind: 'endpoint', id: endpoint.id, jitterMs: 2 },
            ],
          },
        },
        {
          text: 'Sit nearer to the access point, or use another band',
          change: supposing({ suppose: 'line', kind: 'endpoint', id: endpoint.id, jitterMs: 5 }),
          ask: 'check again afterwards',
        },
      ],
    };
  },
};
