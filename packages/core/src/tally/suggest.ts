import type { Change, Layer, Patch } from '@underpass/contracts';
import { doing } from '../change/index.js';
import { burden, evaluateCrossing, touchedBy, type CrossingFacts, type FactsReader } from '../crossing/index.js';
import type { CrossingRef } from '../estate/index.js';
import { figuresOf } from './impact.js';

/** One entry at one layer, and what it does to everybody it touches. */
export interface Suggestion {
  change: Change;
  text: string;
  layer: Layer;
  target: string;
  /** Crossings that get better, of those with the finding and beside them; and those that get worse. */
  helped: number;
  harmed: number;
}

/** Crossings whose remedies are looked at, and entries that are worked out on everybody: the rest would say the same. */
const mostAsked = 60;
const mostTried = 24;
const slack = 0.5;

type SettingPatch = Extract<Patch, { do: 'setting' }>;

/** Settings that mend a finding somewhere, with how often. */
function mending(asked: readonly CrossingFacts[], kind: string): Map<string, { patch: SettingPatch; text: string; times: number }> {
  const found = new Map<string, { patch: SettingPatch; text: string; times: number }>();
  for (const facts of asked) {
    const finding = evaluateCrossing(facts).findings.find((each) => each.kind === kind);
    for (const { change, applicable } of finding?.remedies ?? []) {
      const [patch] = change.patches;
      if (!applicable || change.patches.length !== 1 || patch?.do !== 'setting') continue;
      const key = `${patch.key}=${JSON.stringify(patch.value)}`;
      const known = found.get(key);
      if (known) known.times++;
      else found.set(key, { patch, text: patch.key, times: 1 });
    }
  }
  return found;
}

/** Places at which one entry would reach several of those with the finding: the widest first. */
function placesOf(asked: readonly CrossingFacts[]): { layer: Layer; target: string }[] {
  const counts = new Map<string, { layer: Layer; target: string; times: number }>();
  const see = (layer: Layer, target: string) => {
    const key = `${layer}/${target}`;
    const known = counts.get(key);
    if (known) known.times++;
    else counts.set(key, { layer, target, times: 1 });
  };
  for (const { endpoint, location, subject } of asked) {
    see('organisation', '*');
    see('device class', endpoint.deviceClass);
    see('location', location.id);
    for (const group of subject.groups) see('group', group);
  }
  return [...counts.values()].sort((a, b) => b.times - a.times).slice(0, 8);
}

/**
 * For a finding that many have: the layer at which one entry helps most and harms nobody. Settings that mend it on some of them are tried at every
 * layer they have in common, exactly, on everybody each touches. Yields between entries.
 * @param refs crossings with the finding
 */
export function* suggesting(reader: FactsReader, kind: string, refs: readonly CrossingRef[]): Generator<void, Suggestion[]> {
  const step = Math.max(1, Math.floor(refs.length / mostAsked));
  const asked = refs.filter((_, i) => i % step === 0).flatMap((ref) => reader.read(ref) ?? []);
  yield;
  const settings = [...mending(asked, kind).values()].sort((a, b) => b.times - a.times);
  const places = placesOf(asked);
  const found: Suggestion[] = [];
  let tried = 0;
  for (const { patch } of settings)
    for (const place of places) {
      if (tried++ >= mostTried) break;
      const change = doing({ do: 'setting', key: patch.key, value: patch.value, layer: place.layer, target: place.target });
      const fresh = reader.after(change);
      let [helped, harmed] = [0, 0];
      for (const ref of touchedBy(reader, fresh).after) {
        const [before, after] = [figuresOf(reader, ref), figuresOf(fresh, ref)];
        if (!before || !after) continue;
        const by = burden(after) - burden(before);
        if (by < -slack) helped++;
        else if (by > slack) harmed++;
        yield;
      }
      if (helped > 0) found.push({ change, text: patch.key, layer: place.layer, target: place.target, helped, harmed });
    }
  // who harms nobody comes first, then who helps most, then who says it nearest
  return found.sort((a, b) => Number(a.harmed > 0) - Number(b.harmed > 0) || b.helped - b.harmed - (a.helped - a.harmed)).slice(0, 6);
}
