import { readFileSync, statSync } from 'node:fs';
import {
  bestFor,
  carryCosts,
  decide,
  FactsReader,
  functionsOf,
  isochronousOf,
  readBinary,
  readLsusb,
  computeFigures,
  rulesInOrder,
  sideOf,
  speedOf,
  UsbError,
} from '@underpass/core';
import { CommandError } from './commandError.js';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

const mostBytes = 20_000_000;

/** Devices by their descriptors, in text or binary. */
export function usb(options: Options): object {
  const [file = ''] = options.positional;
  let bytes: Buffer;
  try {
    if (statSync(file).size > mostBytes) throw new CommandError(`${file}: is larger than ${mostBytes / 1_000_000} MB`);
    bytes = readFileSync(file);
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${file}: there is no such file, or it cannot be read`);
  }
  // a descriptor of a device begins with its length, 18, which is no letter of any text
  const isBinary = bytes[0] === 18 || bytes.subarray(0, 4096).includes(0);
  try {
    const devices = isBinary ? readBinary(bytes) : readLsusb(bytes.toString('utf8'));
    return {
      devices: devices.map((device) => {
        const functions = functionsOf(device);
        const { carriedAs, why } = bestFor(functions);
        return {
          ...{ vid: device.vid, pid: device.pid, speed: speedOf(device), functions },
          isochronousMbps: Math.round(isochronousOf(device) * 1e6) / 1e6,
          ...{ maxPowerMa: device.maxPowerMa, carriedAs, why },
        };
      }),
    };
  } catch (error) {
    if (!(error instanceof UsbError)) throw error;
    throw new CommandError(`${file}:${isBinary ? `byte ${error.at}` : error.at}: ${error.message}`);
  }
}

/** What becomes of a device at an endpoint. */
export function carry(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { model } = modelFrom(folder);
  const id = options.text('endpoint');
  if (id === undefined) throw new CommandError('--endpoint: is missing');
  const endpoint = model.endpoints.get(id);
  if (!endpoint) throw new CommandError(`--endpoint: no endpoint has the id “${id}”`);
  const asked = options.text('device') ?? '';
  const [, vid, pid] = /^([0-9a-f]{4}):([0-9a-f]{4})$/i.exec(asked) ?? [];
  if (!vid || !pid) throw new CommandError('--device: must be vendor and product, four hexadecimal digits each, such as 1d6b:0104');
  const here = model.devicesAt.get(id) ?? [];
  const device = here.find((each) => each.vid === vid.toLowerCase() && each.pid === pid.toLowerCase());
  if (!device)
    throw new CommandError(
      `--device: no device ${asked} is at ${id}; ${here.length > 0 ? `there are ${here.map((each) => `${each.vid}:${each.pid}`).join(', ')}` : 'devices.yaml names none there'}`,
    );
  const person = options.text('person') ?? endpoint.person;
  if (person !== undefined && !model.people.has(person)) throw new CommandError(`--person: no person has the id “${person}”`);
  const reader = new FactsReader(model, nowMs);
  const ref = model.crossingsOn(endpoint).find((each) => person === undefined || each.person === person);
  const facts = ref && reader.read(ref);
  if (facts) {
    const figures = computeFigures(facts);
    const { settings: s, session, way } = figures;
    const decision = decide(device, sideOf(facts, s, session), facts.rules);
    return answer(decision, carryCosts(device, decision.decision, { s, endpoint, rttMs: way.rttKnown ? way.rtt.value : null }));
  }
  // nobody goes through from there: what the rules say of the device stands all the same
  const groups = person === undefined ? [] : model.reachOf(person).groups;
  const hasUsb = endpoint.clientKind !== 'browser';
  const side = {
    ownership: endpoint.ownership,
    groups,
    hasUsb,
    ownChannels: hasUsb ? [] : ['headset', 'camera', 'printer'],
    when: 'when plugged in' as const,
  };
  return answer(decide(device, side, rulesInOrder(model.all('usbRule').values())), { mbps: null, addedMs: null });
}

const answer = (
  { decision, rule, when, why }: ReturnType<typeof decide>,
  { mbps, addedMs }: { mbps: number | null; addedMs: number | null },
) => ({
  ...{ decision, rule: rule?.id ?? null, when, why },
  costs: { mbps, addedMs },
});
