import type { Endpoint, Firmware } from '@underpass/contracts';
import { compareVersions } from '../../settings/index.js';
import { rateOf } from './line.js';
import type { BootFacts } from './facts.js';
import type { Run, StepEnd } from './run.js';

/** What a device does with the firmware it is offered at its next start. */
export interface FirmwareDecision {
  does: 'nothing' | 'up' | 'down' | 'refuse' | 'not known';
  offered: Firmware | null;
}

/**
 * What a device does: it installs what differs from what it has, higher or lower, and refuses what is for another processor
 * (common practice, no source). Of several files for its processor the highest version is offered.
 */
export function firmwareDecision(
  { firmware, processor }: Pick<Endpoint, 'firmware' | 'processor'>,
  catalogue: readonly Firmware[],
): FirmwareDecision {
  const [first] = catalogue;
  if (!first) return { does: 'nothing', offered: null };
  const right = catalogue.filter((each) => each.processor === processor);
  const offered = right.reduce<Firmware | null>(
    (best, each) => (!best || compareVersions(each.version, best.version) > 0 ? each : best),
    null,
  );
  if (!offered) return { does: 'refuse', offered: first };
  if (firmware === undefined) return { does: 'not known', offered };
  const order = compareVersions(offered.version, firmware);
  return { does: order === 0 ? 'nothing' : order > 0 ? 'up' : 'down', offered };
}

/** What each device of the class of a file does at its next start once the file is put up: ids by what they do. */
export interface WhoInstalls {
  up: string[];
  down: string[];
  nothing: string[];
  /** What it has is not known: whether it installs the file is seen at its start. */
  'not known': string[];
  /** Has the processor of the file, and is offered a higher version. */
  passed: string[];
  /** Has another processor, and no other file is put up for it: it stops at its start. */
  refuse: string[];
}

/** Who installs a file, once it is put up beside the others (or in the place of what it was). */
export function whoInstalls(
  file: Pick<Firmware, 'id' | 'deviceClass' | 'version' | 'processor'>,
  catalogue: readonly Firmware[],
  endpoints: Iterable<Pick<Endpoint, 'id' | 'deviceClass' | 'firmware' | 'processor'>>,
): WhoInstalls {
  const offered = [
    ...catalogue.filter(({ id, deviceClass }) => id !== file.id && deviceClass === file.deviceClass),
    { sizeMB: 1, ...file },
  ];
  const found: WhoInstalls = { up: [], down: [], nothing: [], 'not known': [], passed: [], refuse: [] };
  for (const endpoint of endpoints) {
    if (endpoint.deviceClass !== file.deviceClass) continue;
    const decision = firmwareDecision(endpoint, offered);
    if (decision.does === 'refuse') found.refuse.push(endpoint.id);
    else if (decision.offered?.id === file.id) found[decision.does].push(endpoint.id);
    else if (endpoint.processor === file.processor) found.passed.push(endpoint.id);
  }
  return found;
}

/** Devices that a file puts back: those for which it is what is offered, and that have something newer. */
export const putBackBy = (file: Firmware, catalogue: readonly Firmware[], endpoints: Iterable<Endpoint>): string[] =>
  whoInstalls(file, catalogue, endpoints).down;

/** Compares what is offered with what it has; the decision goes into `keep`. */
export function compareFirmware(run: Run, { endpoint, firmware, fleet }: BootFacts, keep: (decision: FirmwareDecision) => void): StepEnd {
  const decision = firmwareDecision(endpoint, firmware);
  keep(decision);
  const { does, offered } = decision;
  const has = endpoint.firmware ?? 'not known';
  if (!offered) return { detail: `${has}; none is put up for a ${endpoint.deviceClass}` };
  run.say('here', `has ${has}, is offered ${offered.version} for ${offered.processor}`, `firmware ${offered.id}`);
  const words = { class: fleet?.id ?? endpoint.deviceClass, has: offered.id, offered: offered.processor, processor: endpoint.processor };
  switch (does) {
    case 'refuse':
      return { cause: 'firmware for another processor', words };
    case 'down':
      run.note('downgrade', `It is put back from ${has} to ${offered.version}: a device installs what differs, not what is newer.`);
      return { detail: `downgrade from ${has} to ${offered.version}` };
    case 'up':
      return { detail: `${has}; ${offered.version} is offered` };
    case 'nothing':
      return { detail: `${has}, the one meant` };
    case 'not known':
      run.note('not compared', `Its firmware is not known: if it is not ${offered.version}, that is installed first.`);
      return { detail: `not known; ${offered.version} is offered` };
  }
}

/** Fetches and writes what is to be installed, and starts again. */
export function writeFirmware(run: Run, facts: BootFacts, { does, offered }: FirmwareDecision): StepEnd {
  if (!offered || (does !== 'up' && does !== 'down')) return { detail: 'nothing to write' };
  const { bringup, signon } = facts.assumed;
  const fetchS = (offered.sizeMB * 8) / rateOf(facts);
  run.wait(fetchS * 1000);
  run.say('received', `${offered.id}, ${offered.sizeMB} MB in ${fetchS.toFixed(1)} s`, `firmware ${offered.id}`);
  const writeS = offered.sizeMB / bringup.writeMBps;
  run.wait(writeS * 1000);
  run.say('here', `wrote ${offered.version} in ${writeS.toFixed(1)} s, starts again`);
  run.wait(signon.bootThinS * 1000);
  return { detail: `${offered.version}, ${offered.sizeMB} MB` };
}
