import type { ConnectWhen, Peripheral, UsbMatch, UsbRule } from '@underpass/contracts';
import { bestFor, codeFits, sortOf, tripleOf, written, type CarriedAs } from './usb/index.js';
import type { ClassTriple } from './usb/index.js';

/** Who has the device before them, as rules look at it. */
export interface PluggedSide {
  ownership: 'managed' | 'personal';
  /** Groups of the person, those they are in by another one too. */
  groups: readonly string[];
  /** Whether the kind of client carries devices at all. */
  hasUsb: boolean;
  /** Kinds that a client without it carries by channels of its own. */
  ownChannels: readonly string[];
  /** When devices go over where no rule says so. */
  when: ConnectWhen;
}

/** How a rule stands to a device: it fits, or the first thing in which it does not. */
export interface Looked {
  rule: string;
  fits: boolean;
  failed: keyof UsbMatch | null;
}
/** What becomes of a device, by which rule, and why. */
export interface Decision {
  decision: CarriedAs;
  /** The rule that decides; null where none does. */
  rule: UsbRule | null;
  when: ConnectWhen | null;
  why: string;
  /** Interfaces that are carried; all where null. */
  interfaces: readonly string[] | null;
  /** The rules down to the one that decides, as they were looked at. */
  looked: Looked[];
}

/** What is read of a device once: it is decided anew with every crossing of its endpoint, and never changed. */
interface ReadOf {
  codes: readonly string[];
  functions: readonly ClassTriple[];
  best: ReturnType<typeof bestFor>;
}
const known = new WeakMap<object, ReadOf>();
type Told = Pick<Peripheral, 'class' | 'interfaces'>;
function readOf(device: Told): ReadOf {
  let read = known.get(device);
  if (!read) {
    const own = tripleOf(device.class);
    const functions = device.interfaces.length > 0 ? device.interfaces.map(tripleOf) : [own];
    known.set(
      device,
      (read = { codes: [written(own), ...device.interfaces.map((code) => code.toLowerCase())], functions, best: bestFor(functions) }),
    );
  }
  return read;
}
/** The codes of a device in full: its own, and those of its interfaces. */
export const codesOf = (device: Told): readonly string[] => readOf(device).codes;
/** Functions of a device in full; its own codes where it tells no interfaces. */
export const functionCodes = (device: Told): readonly ClassTriple[] => readOf(device).functions;
/** How a device in full is best carried. */
export const bestOf = (device: Told): ReturnType<typeof bestFor> => readOf(device).best;

const revisionDigits = (revision: string): string => revision.replace('.', '').padStart(4, '0').toLowerCase();

const tests: { [K in keyof UsbMatch]-?: (wanted: NonNullable<UsbMatch[K]>, device: Peripheral, side: PluggedSide) => boolean } = {
  vid: (wanted, { vid }) => wanted.toLowerCase() === vid.toLowerCase(),
  pid: (wanted, { pid }) => wanted.toLowerCase() === pid.toLowerCase(),
  revision: (wanted, { revision }) => revision !== undefined && revisionDigits(wanted) === revisionDigits(revision),
  class: (wanted, device) => codesOf(device).some((code) => codeFits(wanted, code)),
  serial: (wanted, { serial }) => wanted === serial,
  hidBoot: (wanted, device) => wanted === codesOf(device).some((code) => codeFits('03/01', code)),
  ownership: (wanted, _device, { ownership }) => wanted === ownership,
  group: (wanted, _device, { groups }) => groups.includes(wanted),
};
const fields = Object.keys(tests) as (keyof UsbMatch)[];

/** The first thing in which a rule does not fit a device; null where all it names is so. */
export function failedOf<K extends keyof UsbMatch>({ match }: Pick<UsbRule, 'match'>, device: Peripheral, side: PluggedSide): K | null {
  for (const field of fields) {
    const wanted = match[field];
    if (
      wanted !== undefined &&
      !(tests[field] as (wanted: unknown, device: Peripheral, side: PluggedSide) => boolean)(wanted, device, side)
    )
      return field as K;
  }
  return null;
}

/** Rules in the order they are looked at: the lowest rank first, those of one rank by id. */
export const rulesInOrder = (rules: Iterable<UsbRule>): UsbRule[] => [...rules].sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));

const isHub = (device: Peripheral): boolean =>
  functionCodes(device).every(({ class: code }) => code === '09') || tripleOf(device.class).class === '09';

/**
 * What becomes of a device: hubs stay at the desk, and so does everything with a client that carries none; then the first rule that fits
 * decides; where none does, it is not allowed.
 * @param rules in their order; see `rulesInOrder`
 */
export function decide(device: Peripheral, side: PluggedSide, rules: readonly UsbRule[]): Decision {
  const best = bestOf(device);
  const before = { rule: null, interfaces: null, looked: [] };
  if (isHub(device)) return { ...before, decision: 'local only', when: null, why: sortOf(tripleOf('09')).why };
  if (!side.hasUsb) {
    const kinds = functionCodes(device).flatMap((codes) => sortOf(codes).kind ?? []);
    return kinds.some((kind) => side.ownChannels.includes(kind))
      ? { ...before, decision: 'channel', when: side.when, why: 'the client has a channel of its own for it, and no USB' }
      : { ...before, decision: 'local only', when: null, why: 'the client has no USB at all' };
  }
  const looked: Looked[] = [];
  for (const rule of rules) {
    const failed = failedOf(rule, device, side);
    looked.push({ rule: rule.id, fits: failed === null, failed });
    if (failed !== null) continue;
    if (rule.action === 'deny')
      return { decision: 'not allowed', rule, when: null, why: `${told(rule)} denies it`, interfaces: null, looked };
    const when = rule.when ?? side.when;
    if (rule.interfaces)
      return {
        decision: 'split',
        rule,
        when,
        why: `${told(rule)} lets only ${rule.interfaces.join(' and ')} of it through`,
        interfaces: codesOf(device).filter((code) => rule.interfaces?.some((asked) => codeFits(asked, code))),
        looked,
      };
    const decision = rule.carryAs ?? (best.carriedAs === 'session input' ? 'local only' : best.carriedAs);
    return {
      decision,
      rule,
      when,
      why: rule.carryAs ? `${told(rule)} says so` : `${told(rule)} allows it; ${best.why}`,
      interfaces: null,
      looked,
    };
  }
  return {
    decision: 'not allowed',
    rule: null,
    when: null,
    why: 'no rule fits it, and what no rule names is not allowed',
    interfaces: null,
    looked,
  };
}

/** A rule as it is told. */
export const told = ({ id, name }: Pick<UsbRule, 'id' | 'name'>): string => `rule ${name ?? id}`;

/** Whether all that one rule asks for is asked for by the other too: whatever the other fits, the one fits. */
function covers(wide: UsbMatch, narrow: UsbMatch): boolean {
  return fields.every((field) => {
    const [wanted, has] = [wide[field], narrow[field]];
    if (wanted === undefined) return true;
    if (has === undefined) return false;
    if (field === 'class') return codeFits(String(wanted).toLowerCase(), String(has).toLowerCase());
    if (field === 'revision') return revisionDigits(String(wanted)) === revisionDigits(String(has));
    return String(wanted).toLowerCase() === String(has).toLowerCase();
  });
}

/** Rules that can never decide, since an earlier one fits all they fit. @param rules in their order */
export function shadowed(rules: readonly UsbRule[]): { rule: UsbRule; by: UsbRule }[] {
  return rules.flatMap((rule, i) => {
    const by = rules.slice(0, i).find((earlier) => covers(earlier.match, rule.match));
    return by ? [{ rule, by }] : [];
  });
}

/** What would have to be otherwise for a device to be decided otherwise: the rules before the deciding one that fail in one thing alone. */
export function nearMisses(device: Peripheral, side: PluggedSide, rules: readonly UsbRule[]): { rule: UsbRule; field: keyof UsbMatch }[] {
  return rules.flatMap((rule) => {
    const failed = failedOf(rule, device, side);
    if (failed === null) return [];
    const { [failed]: _, ...rest } = rule.match;
    return failedOf({ match: rest }, device, side) === null ? [{ rule, field: failed }] : [];
  });
}
