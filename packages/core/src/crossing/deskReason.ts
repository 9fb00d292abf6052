import { figure } from './finding.js';
import type { Bay, ClientKind, PeripheralKind } from '@underpass/contracts';

/** What keeps something on the desk from the session, or narrows it. */
export type DeskReason =
  | {
      code:
        | 'screens not known'
        | 'fewer by setting'
        | 'fewer pixels by setting'
        | 'shows the same'
        | 'too many pixels'
        | 'pixels of the device'
        | 'too many screens'
        | 'port too small';
    }
  | { code: 'port slow'; highestHz: number }
  | { code: 'way too slow'; bearsMs: number }
  | { code: 'way too thin'; mbps: number }
  | { code: 'each job longer'; seconds: number }
  | { code: 'client cannot'; clientKind: ClientKind }
  | {
      code:
        | 'rules forbid'
        | 'personal device'
        | 'guest'
        | 'gateway without USB'
        | 'sound elsewhere'
        | 'microphone off'
        | 'setting forbids'
        | 'stays local'
        | 'rule denies'
        | 'no rule'
        | 'by hand';
    };

const gatewayReasons: ReadonlySet<DeskReason['code']> = new Set([
  'rules forbid',
  'gateway without USB',
  'setting forbids',
  'sound elsewhere',
  'microphone off',
  'rule denies',
  'no rule',
]);
const wayReasons: ReadonlySet<DeskReason['code']> = new Set(['way too slow', 'way too thin', 'each job longer']);
/** Where each reason lies on the way. */
export const bayOfReason = ({ code }: DeskReason): Bay =>
  gatewayReasons.has(code) ? 'Gateway' : wayReasons.has(code) ? 'Link' : 'Endpoint';

/** The reason in words, to go on after a name and a colon. */
export function deskWhy(because: DeskReason | null): string {
  switch (because?.code) {
    case undefined:
      return '';
    case 'screens not known':
      return 'the screens are not known';
    case 'fewer by setting':
      return 'the settings use fewer screens';
    case 'fewer pixels by setting':
      return 'the settings allow fewer pixels';
    case 'shows the same':
      return 'it shows the same as the first';
    case 'too many pixels':
      return 'more pixels than the client takes';
    case 'pixels of the device':
      return 'more pixels than the device drives';
    case 'too many screens':
      return 'more screens than the client takes';
    case 'port too small':
      return 'its port carries no such size';
    case 'port slow':
      return `its port carries ${because.highestHz} Hz only`;
    case 'client cannot':
      return `a ${because.clientKind} has no way for it`;
    case 'rules forbid':
      return 'the rules do not let it through';
    case 'personal device':
      return 'not from a personal device';
    case 'guest':
      return 'nothing leaves with a guest';
    case 'sound elsewhere':
      return 'the settings keep the sound off this device';
    case 'microphone off':
      return 'the settings keep the microphone out';
    case 'setting forbids':
      return 'a setting keeps it out';
    case 'way too slow':
      return `it bears ${because.bearsMs} ms there and back, and the way takes longer`;
    case 'way too thin':
      return `it asks ${figure(because.mbps)} Mbit/s, and the line does not send so much`;
    case 'each job longer':
      return `each of its jobs takes ${figure(because.seconds)} s longer: it asks and waits many times`;
    case 'stays local':
      return 'a rule keeps it at the desk';
    case 'rule denies':
      return 'a rule denies it';
    case 'no rule':
      return 'no rule names it, and what none names is not allowed';
    case 'by hand':
      return 'it goes over only by hand';
    case 'gateway without USB':
      return 'the gateway carries no USB';
  }
}

/** A screen or peripheral on the desk and whether it works in the session. */
export interface DeskItem {
  name: string;
  /** null where it is not known. */
  works: boolean | null;
  carriedAs: 'session' | 'channel' | 'raw USB' | 'local only' | 'not allowed' | 'not known';
  /** Why it does not work, or not wholly; null where there is nothing to say. In words: `deskWhy`. */
  because: DeskReason | null;
  /** It does not work because it is meant not to: by a setting or a rule about data. That is no fault. */
  meant: boolean;
  screen: number | undefined;
  peripheral: PeripheralKind | undefined;
  /** The device told in full. */
  device?: string;
}
