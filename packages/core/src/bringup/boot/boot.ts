import type { Merged } from '../configFile/index.js';
import { findAddress, type Lease } from './address.js';
import { bootCauses, type BootCause } from './causes/index.js';
import type { BootFacts } from './facts.js';
import { fetchFiles, reachServer } from './files.js';
import { compareFirmware, writeFirmware, type FirmwareDecision } from './firmware.js';
import { linkUp } from './link.js';
import { Run, sentence, type BootNote, type StepEnd } from './run.js';
import type { ServerPlace } from './serverPlace.js';
import { findBroker, setTime, showSignIn } from './signIn.js';
import { bootSteps, type BootMessage, type BootStep, type BootStepName } from './steps.js';
import { readOptions } from './told.js';

/** What keeps a device from its sign-in screen, and what to do and to ask. */
export interface BootBreak {
  step: BootStepName;
  code: BootCause;
  /** What is wrong. */
  cause: string;
  /** What mends it. */
  mend: string;
  /** What the screen of the device shows. */
  shows: string;
  /** The words of this device in those sentences, such as its scope, server and file. */
  words: Readonly<Record<string, string>>;
  /** What to ask a person by telephone, to tell it from what looks most like it. */
  ask: { question: string; here: string; there: string; alike: BootCause };
}

/** The start of a device from switching on to its sign-in screen. */
export interface Boot {
  steps: BootStep[];
  messages: BootMessage[];
  notes: BootNote[];
  broken: BootBreak | null;
  /** Until the sign-in screen, or until it stops, ms. */
  totalMs: number;
  /** What its files came to; null where they were not reached. */
  config: Merged | null;
  firmware: FirmwareDecision | null;
}

/** What the steps hand on to each other. */
interface Handed {
  lease?: Lease;
  server?: ServerPlace;
  merged?: Merged;
  firmware?: FirmwareDecision;
  broker?: string;
}

/** A step that is reached has what the ones before it found. */
function needed<T>(found: T | undefined): T {
  if (found === undefined) throw new Error('a step was reached without what it rests on');
  return found;
}

type Work = (run: Run, facts: BootFacts, handed: Handed) => StepEnd;
const work: Record<BootStepName, Work> = {
  'power on': (run, { assumed }) => {
    run.wait(assumed.signon.bootThinS * 1000);
    return { detail: 'starts' };
  },
  'link up': linkUp,
  DHCP: (run, facts, handed) => findAddress(run, facts, (lease) => (handed.lease = lease)),
  'options found': (run, facts, handed) => readOptions(run, facts, needed(handed.lease), (place) => (handed.server = place)),
  'configuration server reached': (run, facts, { server }) => reachServer(run, facts, needed(server)),
  'configuration files fetched and merged': (run, facts, handed) => fetchFiles(run, facts, (merged) => (handed.merged = merged)),
  'firmware compared': (run, facts, handed) => compareFirmware(run, facts, (decision) => (handed.firmware = decision)),
  'write and restart': (run, facts, { firmware }) => writeFirmware(run, facts, needed(firmware)),
  'certificate store': (run, { assumed }) => {
    run.wait(assumed.bringup.storeS * 1000);
    return { detail: 'read' };
  },
  'time set': (run, facts, { lease }) => setTime(run, facts, needed(lease)),
  'broker address known': (run, facts, handed) => findBroker(run, facts, needed(handed.merged), (address) => (handed.broker = address)),
  'sign-in screen': (run, facts, { broker, firmware }) => showSignIn(run, facts, needed(broker), needed(firmware)),
};

/**
 * Simulates the start of a device against what is known of its place: every step with its time and what was sent, received and
 * worked out, up to the first one that breaks.
 */
export function boot(facts: BootFacts): Boot {
  const run = new Run();
  const handed: Handed = {};
  let broken: BootBreak | null = null;
  for (const name of bootSteps) {
    if (broken) {
      run.skip(name);
      continue;
    }
    const end = run.take(name, () => work[name](run, facts, handed));
    if (end) broken = breakOf(name, end.cause, end.words, run.steps.at(-1)?.detail ?? '');
  }
  const { steps, messages, notes, atMs: totalMs } = run;
  return { steps, messages, notes, broken, totalMs, config: handed.merged ?? null, firmware: handed.firmware ?? null };
}

function breakOf(step: BootStepName, code: BootCause, words: Readonly<Record<string, string>>, cause: string): BootBreak {
  const { mend, shows, ask, here, there, alike } = bootCauses[code];
  const said = (text: string) => sentence(text, words);
  return {
    step,
    code,
    cause,
    mend: said(mend),
    words,
    shows,
    ask: { question: said(ask), here: said(here), there: said(there), alike: alike as BootCause },
  };
}
