import type { Bay, Change, Verdict } from '@underpass/contracts';
import { isEmpty } from '../change/index.js';
import {
  Alike,
  evaluateCrossing,
  noCounts,
  worstVerdict,
  type Counts,
  type CrossingFacts,
  type Evaluation,
  type FactsReader,
  type Summary,
} from '../crossing/index.js';
import { usersOf, type CrossingRef } from '../estate/index.js';
import { atOnce } from '../indexes/index.js';
import type { Counted } from './countedCrossing.js';

/** A finding that many people have in common, with the remedy that frees most of them. */
export interface LeadingFinding {
  kind: string;
  bay: Bay;
  weight: 'blocked' | 'limited' | 'unknown' | 'risk';
  area: string;
  text: string;
  people: number;
  before: Counts;
  /** `named` and `change` are the remedy as it is on the example crossing, so that it can be tried there at once. */
  remedy: { text: string; named: string; change: Change; effect: string; applicable: boolean } | null;
  /** People by verdict once everybody concerned has the remedy. */
  after: Counts;
  /** One crossing that shows it. */
  example: string;
}

/** What a change does, whoever it does it to: the same remedy on two crossings has the same sort; at another layer it is another one. */
const sortOf = ({ patches, hypotheses }: Change): string =>
  [
    ...patches.map((patch) =>
      patch.do === 'setting'
        ? `${patch.key}@${patch.layer}=${String(patch.value)}`
        : patch.do === 'change'
          ? `${patch.kind}.${Object.keys({ ...patch.set, ...patch.add, ...patch.drop }).join('+')}`
          : patch.do,
    ),
    ...hypotheses.map((one) => (one.suppose === 'object' ? `${one.kind}.${Object.keys(one.set).join('+')}` : Object.keys(one).join('+'))),
  ].join();

/** At most this many crossings of a group are evaluated with their remedies; above it the count says "of the first". */
const mostInGroup = 400;
/** Findings told in all, and groups that are looked at for them. */
const mostTold = 9;
const looked = 3 * mostTold;
/** How much a crossing in a group weighs, in whole numbers, which add up the same in any order; common practice, no source. */
const badness: Record<Verdict, number> = { blocked: 20, limited: 10, unknown: 1, clear: 0 };

interface Group {
  kind: string;
  area: string;
  refs: Map<string, CrossingRef>;
  bad: number;
  /** How often it changed: what was begun before a change does not count after it. */
  changes: number;
  /** What was worked out for it; undefined where that has to be done. */
  found: { finding: LeadingFinding; score: number } | null | undefined;
}
/** What was worked out for a group holds no longer. */
function toldAnew(group: Group): void {
  group.found = undefined;
  group.changes++;
}
/** The groups that a crossing stands in, and how much it weighs there. */
interface Place {
  area: string;
  keys: readonly string[];
  kinds: readonly string[];
  bad: number;
}
const nowhere: Place = { area: '', keys: [], kinds: [], bad: 0 };

/** An evaluation with the crossing in whose words it is: of those that are alike, the first. */
type Evaluated = Evaluation & { ref: CrossingRef };
const evaluated = (facts: CrossingFacts): Evaluated => ({ ref: facts.ref, ...evaluateCrossing(facts) });
/**
 * Whether somebody has a device that nobody shares, and no other one. What a remedy changes for them it changes for whoever else sits
 * there and wherever they sit, and so what the line bears: of others the same remedy may come to something else.
 */
const isAtOwnDesk = ({ endpoint, person, reader }: CrossingFacts): boolean =>
  usersOf(endpoint).length === 1 && reader.model.endpointsOf.get(person.id)?.length === 1;

class Worst {
  private readonly verdicts = new Map<string, Verdict>();
  see(person: string, verdict: Verdict): void {
    this.verdicts.set(person, worstVerdict(this.verdicts.get(person) ?? 'clear', verdict));
  }
  counts(): Counts {
    const counts = noCounts();
    for (const verdict of this.verdicts.values()) counts[verdict]++;
    return counts;
  }
}

/**
 * The findings that cost most over the estate: what, where, how many people, and what the best remedy does for them. Only groups
 * whose crossings were evaluated again are worked out anew.
 */
export class LeadingTally {
  private readonly groups = new Map<string, Group>();
  /** Crossings that are alike come out as one summary, and stand in the same groups. */
  private readonly places = new WeakMap<Summary, Place>();

  private placeOf(counted: Counted | null): Place {
    if (counted === null || counted.summary.verdict === 'clear' || counted.summary.kinds.length === 0) return nowhere;
    const { area, summary } = counted;
    let place = this.places.get(summary);
    if (place?.area !== area) {
      const { kinds, verdict } = summary;
      this.places.set(summary, (place = { area, kinds, keys: kinds.map((kind) => `${kind}|${area}`), bad: badness[verdict] }));
    }
    return place;
  }

  /** Takes a crossing as it comes out now in place of what was taken for it; null where there was nothing, or is nothing any more. */
  move(before: Counted | null, now: Counted | null): void {
    const was = this.placeOf(before);
    const is = this.placeOf(now);
    // what it stands in, it is to be told anew in, whatever changed
    if (now)
      for (let i = 0; i < is.keys.length; i++) {
        const key = is.keys[i] as string;
        let group = this.groups.get(key);
        if (!group)
          this.groups.set(
            key,
            (group = { kind: is.kinds[i] as string, area: is.area, refs: new Map(), bad: 0, changes: 0, found: undefined }),
          );
        const stood = was === is || was.keys.includes(key);
        // a group has thousands, and looking one up has to be waited for
        if (!stood || before?.ref !== now.ref) group.refs.set(now.ref.id, now.ref);
        group.bad += is.bad - (stood ? was.bad : 0);
        toldAnew(group);
      }
    if (!before || was === is) return;
    for (const key of was.keys) {
      const group = is.keys.includes(key) ? undefined : this.groups.get(key);
      if (!group) continue;
      group.refs.delete(before.ref.id);
      group.bad -= was.bad;
      toldAnew(group);
      if (group.refs.size === 0) this.groups.delete(key);
    }
  }

  /** What is left to be worked out, in small steps, so that whoever waits can be served between them. */
  *work(reader: FactsReader): Generator<void, LeadingFinding[]> {
    // a crossing stands in several groups, but is evaluated once
    const known = new Map<string, Evaluated | null>();
    const alike = new Alike(evaluated);
    const candidates = [...this.groups.values()]
      .sort((a, b) => b.bad - a.bad || (a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : a.area < b.area ? -1 : 1))
      .slice(0, looked);
    const found: NonNullable<Group['found']>[] = [];
    for (const group of candidates) {
      if (group.found !== undefined) {
        if (group.found) found.push(group.found);
        continue;
      }
      const { changes } = group;
      const refs = [...group.refs.keys()]
        .sort()
        .slice(0, mostInGroup)
        .flatMap((id) => group.refs.get(id) ?? []);
      for (const ref of refs) {
        if (known.has(ref.id)) continue;
        const facts = reader.read(ref);
        known.set(ref.id, facts && (isAtOwnDesk(facts) ? alike.of(facts) : evaluated(facts)));
        yield;
      }
      const worked = leading(reader, { ...group, refs }, (ref) => known.get(ref.id) ?? null);
      if (worked) found.push(worked);
      if (group.changes === changes) group.found = worked;
    }
    return found
      .sort((a, b) => b.score - a.score || (a.finding.kind < b.finding.kind ? -1 : 1))
      .slice(0, mostTold)
      .map(({ finding }) => finding);
  }

  /** The same in one go. */
  findings(reader: FactsReader): LeadingFinding[] {
    return atOnce(this.work(reader));
  }
}

function leading(
  reader: FactsReader,
  group: { kind: string; area: string; refs: CrossingRef[] },
  evaluate: (ref: CrossingRef) => Evaluated | null,
): { finding: LeadingFinding; score: number } | null {
  const before = new Worst();
  const texts = new Map<
    string,
    { text: string; named: string; change: Change; helped: Set<string>; effect: string; applicable: boolean; gain: number }
  >();
  let first: { text: string; bay: Bay; weight: LeadingFinding['weight']; cost: number; ref: CrossingRef } | null = null;
  let score = 0;
  const people = new Set<string>();
  const seen: { ref: CrossingRef; person: string; verdict: Verdict; remedies: Map<string, Verdict> }[] = [];
  for (const ref of group.refs) {
    const evaluation = evaluate(ref);
    const found = evaluation?.findings.find((finding) => finding.kind === group.kind);
    if (!evaluation || !found || found.weight === 'risk') continue;
    people.add(ref.person);
    before.see(ref.person, evaluation.figures.verdict);
    score += found.cost;
    if (!first || found.cost > first.cost) first = { text: found.text, bay: found.bay, weight: found.weight, cost: found.cost, ref };
    const remedies = new Map<string, Verdict>();
    const place = reader.model.locations.get(ref.location)?.name ?? '';
    for (const remedy of found.remedies) {
      // the same remedy at several places of an area is one remedy
      const key = !isEmpty(remedy.change) ? sortOf(remedy.change) : remedy.text.replace(evaluation.ref.endpoint, '');
      const entry = texts.get(key) ?? {
        text: remedy.text.replace(place, group.area),
        named: remedy.text,
        change: remedy.change,
        helped: new Set<string>(),
        effect: remedy.effectText,
        applicable: remedy.applicable,
        gain: 0,
      };
      entry.gain += remedy.effect?.gain ?? 0;
      if (remedy.effect?.becomes === 'clear') entry.helped.add(ref.person);
      if (first.ref === ref) Object.assign(entry, { named: remedy.text, change: remedy.change });
      texts.set(key, entry);
      remedies.set(key, remedy.effect?.becomes ?? evaluation.figures.verdict);
    }
    seen.push({ ref, person: ref.person, verdict: evaluation.figures.verdict, remedies });
  }
  if (!first) return null;
  // whoever is left short on another of these crossings is not helped
  for (const [key, { helped }] of texts)
    for (const { person, verdict, remedies } of seen) if ((remedies.get(key) ?? verdict) !== 'clear') helped.delete(person);
  const ofExample = seen.find(({ ref }) => ref === first?.ref)?.remedies;
  const best = [...texts.entries()].sort(
    ([keyA, a], [keyB, b]) =>
      b.helped.size - a.helped.size ||
      (a.helped.size > 0 ? Number(b.applicable) - Number(a.applicable) : 0) ||
      b.gain - a.gain ||
      // of equals the one for the crossing that is shown
      Number(ofExample?.has(keyB)) - Number(ofExample?.has(keyA)),
  )[0];
  const after = new Worst();
  for (const { person, verdict, remedies } of seen) after.see(person, (best && remedies.get(best[0])) ?? verdict);
  const helped = best?.[1].helped.size ?? 0;
  return {
    score,
    finding: {
      kind: group.kind,
      bay: first.bay,
      weight: first.weight,
      area: group.area,
      text: first.text,
      people: people.size,
      before: before.counts(),
      remedy: best
        ? {
            text: best[1].text,
            named: best[1].named,
            change: best[1].change,
            effect: helped ? `${helped} become${helped === 1 ? 's' : ''} Clear` : best[1].effect,
            applicable: best[1].applicable,
          }
        : null,
      after: after.counts(),
      example: first.ref.id,
    },
  };
}
