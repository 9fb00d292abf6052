import type { Layer, ObjectKind, Setting, SettingValue } from '@underpass/contracts';
import type { Evidence } from '../evidence/index.js';
import { copyOf, resolveOne, resolveSettings, type SettingKey, type SettingValues } from '../settings/index.js';
import { settingsOf, type CrossingFacts } from './facts.js';

/** One edit of a draft. Settings and objects can be applied; a hypothesis says what somebody else's work would make true. */
export type Edit =
  | { type: 'setting'; key: SettingKey; layer: Layer; target: string; value: SettingValue; replaces?: string }
  | { type: 'object'; kind: ObjectKind; id: string; field: string; value: unknown }
  | {
      type: 'hypothesis';
      fact: 'roundTrips' | 'loss' | 'jitter' | 'downMbps' | 'upMbps' | 'udp' | 'drawnBy';
      value: number | boolean | string;
    };
export type Change = readonly Edit[];

export const isApplicable = (change: Change): boolean => change.length > 0 && change.every((edit) => edit.type !== 'hypothesis');

function setAt<T extends object>(object: T, path: readonly string[], value: unknown): T {
  const [key, ...rest] = path as [string, ...string[]];
  const inner = (object as Record<string, unknown>)[key];
  return { ...object, [key]: rest.length ? setAt((inner ?? {}) as object, rest, value) : value };
}
/** An object with one field replaced; dots go into nested objects. */
export const withField = <T extends object>(object: T, field: string, value: unknown): T => setAt(object, field.split('.'), value);

const hypothetical = { at: '', by: 'supposed', note: 'supposed', samples: 1000 };

function suppose(evidence: Evidence, edit: Edit & { type: 'hypothesis' }): Evidence {
  const trips = evidence.roundTrips?.value;
  switch (edit.fact) {
    case 'roundTrips': {
      const ms = edit.value as number;
      return {
        ...evidence,
        roundTrips: {
          ...hypothetical,
          value: {
            samples: 1000,
            lost: 0,
            minMs: ms,
            medianMs: ms,
            p95Ms: ms + 2,
            medianLowMs: ms,
            medianHighMs: ms,
            ...(trips?.jitterMs === undefined ? {} : { jitterMs: Math.min(trips.jitterMs, 2) }),
          },
        },
      };
    }
    case 'jitter':
      return {
        ...evidence,
        ...(evidence.roundTrips && trips
          ? {
              roundTrips: {
                ...evidence.roundTrips,
                value: { ...trips, jitterMs: edit.value as number, p95Ms: trips.medianMs + (edit.value as number) },
              },
            }
          : {}),
        ...(evidence.datagrams
          ? { datagrams: { ...evidence.datagrams, value: { ...evidence.datagrams.value, jitterMs: edit.value as number } } }
          : {}),
      };
    case 'loss':
      return {
        ...evidence,
        datagrams: {
          ...hypothetical,
          value: { ...evidence.datagrams?.value, passes: true, sent: 1000, lost: Math.round((edit.value as number) * 10) },
        },
      };
    case 'udp':
      return { ...evidence, datagrams: { ...hypothetical, value: { ...evidence.datagrams?.value, passes: edit.value === true } } };
    case 'downMbps':
      return { ...evidence, downMbps: { ...hypothetical, value: edit.value as number } };
    case 'upMbps':
      return { ...evidence, upMbps: { ...hypothetical, value: edit.value as number } };
    case 'drawnBy': {
      const { scene: _scene, ...rest } = evidence;
      return rest;
    }
  }
}

/** The crossing as it would be after a change; the given facts stay as they are. */
export function withChange(facts: CrossingFacts, change: Change): CrossingFacts {
  let next: CrossingFacts = { ...facts, resolved: undefined };
  let index: Map<string, readonly Setting[]> | null = null;
  for (const edit of change) {
    if (edit.type === 'hypothesis') next.evidence = suppose(next.evidence, edit);
    else if (edit.type === 'setting') {
      index ??= new Map(next.settings);
      const id = settingIdFor(edit);
      const kept = (index.get(edit.key) ?? []).filter(
        (entry) => entry.id !== id && !(entry.layer === edit.layer && entry.target === edit.target && !entry.condition),
      );
      const replaced = (index.get(edit.key) ?? []).find(
        (entry) => entry.layer === edit.layer && entry.target === edit.target && !entry.condition,
      );
      index.set(edit.key, [
        ...kept,
        { id, key: edit.key, layer: edit.layer, target: edit.target, value: joined(edit, replaced), locked: false },
      ]);
    } else next = withObject(next, edit);
  }
  if (index) next.settings = index;
  return next;
}

/** A list edit adds to what the layer's entry has already; other values replace it. */
export const joined = (edit: Edit & { type: 'setting' }, known: Setting | undefined): SettingValue =>
  Array.isArray(edit.value) && Array.isArray(known?.value) ? [...new Set([...known.value, ...edit.value])] : edit.value;

export const settingIdFor = (edit: { key: string; layer: string; target: string }): string =>
  `${edit.key}-${edit.layer}-${edit.target}`.replace(/[^A-Za-z0-9._-]/g, '_').slice(0, 64);

function withObject(facts: CrossingFacts, { kind, id, field, value }: Edit & { type: 'object' }): CrossingFacts {
  const set = <T extends { id: string }>(object: T): T => (object.id === id ? withField(object, field, value) : object);
  switch (kind) {
    case 'endpoint': {
      const endpoint = set(facts.endpoint);
      // what is typed anew replaces what was measured of the same thing
      const evidence = { ...facts.evidence };
      if (field === 'screens') delete evidence.screens;
      if (field === 'decoders') delete evidence.decoders;
      if (field === 'clientKind') delete evidence.scene;
      const line = facts.location.ownLines && endpoint.line ? endpoint.line : facts.line;
      return {
        ...facts,
        endpoint,
        line,
        evidence,
        subject: { ...facts.subject, clientKind: endpoint.clientKind, ownership: endpoint.ownership, deviceClass: endpoint.deviceClass },
      };
    }
    case 'location': {
      const location = set(facts.location);
      const line = facts.location.ownLines ? facts.line : { ...facts.line, ...location };
      const evidence = { ...facts.evidence };
      if (field === 'downMbps') delete evidence.downMbps;
      if (field === 'upMbps') delete evidence.upMbps;
      return { ...facts, location, line, evidence };
    }
    case 'gateway':
      return { ...facts, gateway: set(facts.gateway) };
    case 'pool':
      return { ...facts, pool: set(facts.pool) };
    case 'host':
      return { ...facts, hosts: facts.hosts.map(set) };
    case 'resource':
      return { ...facts, resource: set(facts.resource) };
    case 'person':
      return { ...facts, person: set(facts.person) };
    case 'publication': {
      const publication = facts.publication && set(facts.publication);
      return { ...facts, publication, portal: facts.estate.portals.find((portal) => portal.id === publication?.portals[0]) };
    }
    case 'portal':
      return { ...facts, portal: facts.portal && set(facts.portal) };
    default:
      return facts;
  }
}

/** Whether everybody on the line is changed alike, so that what the others ask of it changes too. */
const touchesAll = (change: Change, facts: CrossingFacts): boolean =>
  change.some(
    (edit) =>
      (edit.type === 'setting' && (edit.layer === 'organisation' || (edit.layer === 'location' && edit.target === facts.location.id))) ||
      (edit.type === 'object' && edit.kind === 'resource'),
  );

/** Settings after a change: only what the change may touch is resolved again. */
function resettle(before: CrossingFacts, after: CrossingFacts, change: Change): SettingValues {
  if (after.subject !== before.subject) return resolveSettings(after.settings, after.subject);
  const values = copyOf(settingsOf(before)) as unknown as Record<string, unknown>;
  for (const edit of change) if (edit.type === 'setting') values[edit.key] = resolveOne(after.settings, edit.key, after.subject);
  return values as unknown as SettingValues;
}

export interface OnPaper {
  facts: CrossingFacts;
  settings: SettingValues;
}

/**
 * Facts and settings after a change. Where the change is for everybody at the location, the others' demand is taken to change
 * in the same proportion as this person's; the estate's impact works it out exactly.
 */
export function onPaper(
  facts: CrossingFacts,
  change: Change,
  meanMbpsOf: (facts: CrossingFacts, settings: SettingValues) => number,
): OnPaper {
  const next = withChange(facts, change);
  const settings = resettle(facts, next, change);
  if (facts.others.count > 0 && touchesAll(change, facts)) {
    const before = meanMbpsOf(facts, settingsOf(facts));
    const after = meanMbpsOf(next, settings);
    const factor = before > 0 ? after / before : 1;
    next.others = { ...facts.others, meanMbps: facts.others.meanMbps * factor, sdMbps: facts.others.sdMbps * factor };
  }
  return { facts: next, settings };
}
