import { Injectable } from '@nestjs/common';
import type { JoiningCard } from '@underpass/contracts';
import { joiningByHand, joiningSteps, securityWords, spelled, wifiCode } from '@underpass/core';
import QRCode from 'qrcode';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Sealing } from '../secrets/sealing.service.js';

/** Cards by which somebody joins the Wi-Fi of a place. */
@Injectable()
export class JoiningService {
  constructor(
    private readonly store: EstateStore,
    private readonly sealing: Sealing,
  ) {}

  async of(id: string): Promise<JoiningCard> {
    const location = this.store.model.locations.get(id);
    if (!location) throw notFound('location', id);
    const { name, key: sealed, hidden = false, security = sealed === undefined ? 'nopass' : 'WPA' } = location.wifi ?? {};
    if (name === undefined)
      throw new ProblemError(422, 'Nothing to join', `No Wi-Fi of ${location.name} is recorded. Add its name and key to the location.`);
    const key = sealed === undefined ? '' : this.sealing.opened(sealed);
    if (key === null)
      throw new ProblemError(422, 'Sealed elsewhere', 'Its key was sealed by another installation. Type it anew at the location.');
    const code = wifiCode({ name, type: security, key, hidden });
    if (!code.ok)
      throw new ProblemError(422, 'Not a network', `${location.name}: ${code.fault.place} ${code.fault.problem}; ${code.fault.remedy}.`);
    return {
      name,
      security: securityWords[security],
      hidden,
      key: key === '' ? null : key,
      spelled: spelled(key),
      steps: joiningSteps({ name, security, hidden }),
      byHand: joiningByHand({ name, security }),
      payload: code.value,
      code: await QRCode.toString(code.value, { type: 'svg', margin: 2 }),
    };
  }
}
