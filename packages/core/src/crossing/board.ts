import type { Bay, Verdict } from '@underpass/contracts';
import type { CrossingRef, EstateModel } from '../estate/index.js';
import { worstVerdict } from './figures.js';
import { evaluateCrossing, type Evaluation, type Summary } from './evaluate.js';
import type { FactsReader } from './factsFor.js';

export type Counts = Record<Verdict, number>;
export const noCounts = (): Counts => ({ blocked: 0, limited: 0, unknown: 0, clear: 0 });

export interface BoardRow {
  area: string;
  note: string;
  /** People of the row, each at the worst of their crossings there. */
  people: Counts;
  cells: Record<string, Counts>;
  /** People by their worst crossing to any of the other resources. */
  rest: Counts | null;
  locations: string[];
}
export interface Board {
  people: Counts;
  bays: Record<Bay, Counts>;
  /** Resources with a column of their own, those with most trouble first; the others are counted together. */
  resources: { id: string; name: string }[];
  others: number;
  rows: BoardRow[];
}

/** Key of the cell that holds the other resources; no resource can be called so. */
const restColumn = '*';
const notClear = (counts: Counts) => counts.blocked + counts.limited + counts.unknown;
const order = (counts: Counts) => counts.blocked * 3 + counts.limited * 2 + counts.unknown;

class Worst {
  private readonly verdicts = new Map<string, Verdict>();
  see(key: string, verdict: Verdict): void {
    this.verdicts.set(key, worstVerdict(this.verdicts.get(key) ?? 'clear', verdict));
  }
  counts(): Counts {
    const counts = noCounts();
    for (const verdict of this.verdicts.values()) counts[verdict]++;
    return counts;
  }
}

/** Locations × resources, people counted once at their worst crossing, worst first. */
export function boardOf(model: EstateModel, refs: readonly CrossingRef[], summaries: ReadonlyMap<string, Summary>, columns = 6): Board {
  const all = new Worst();
  const bays = new Map<Bay, Worst>();
  const rows = new Map<string, { worst: Worst; cells: Map<string, Worst>; locations: Set<string> }>();
  const used = new Map<string, number>();
  for (const ref of refs) used.set(ref.resource, (used.get(ref.resource) ?? 0) + (summaries.get(ref.id)?.verdict === 'clear' ? 1 : 6));
  const ordered = [...used.entries()].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).map(([id]) => id);
  const own = new Set(ordered.slice(0, columns));
  for (const ref of refs) {
    const summary = summaries.get(ref.id);
    const location = model.locations.get(ref.location);
    if (!summary || !location) continue;
    const area = location.area ?? location.name;
    let row = rows.get(area);
    if (!row) rows.set(area, (row = { worst: new Worst(), cells: new Map(), locations: new Set() }));
    row.locations.add(location.id);
    const column = own.has(ref.resource) ? ref.resource : restColumn;
    let cell = row.cells.get(column);
    if (!cell) row.cells.set(column, (cell = new Worst()));
    cell.see(ref.person, summary.verdict);
    row.worst.see(ref.person, summary.verdict);
    all.see(ref.person, summary.verdict);
    if (summary.bay) {
      let bay = bays.get(summary.bay);
      if (!bay) bays.set(summary.bay, (bay = new Worst()));
      bay.see(ref.person, summary.verdict);
    }
  }
  const bayNames: Bay[] = ['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace'];
  return {
    people: all.counts(),
    bays: Object.fromEntries(bayNames.map((bay) => [bay, bays.get(bay)?.counts() ?? noCounts()])) as Record<Bay, Counts>,
    resources: [...own].map((id) => ({ id, name: model.resources.get(id)?.name ?? id })),
    others: ordered.length - own.size,
    rows: [...rows.entries()]
      .map(([area, row]) => ({
        area,
        note: noteOf(model, [...row.locations]),
        people: row.worst.counts(),
        cells: Object.fromEntries(
          [...row.cells].filter(([column]) => column !== restColumn).map(([resource, worst]) => [resource, worst.counts()]),
        ),
        rest: row.cells.get(restColumn)?.counts() ?? null,
        locations: [...row.locations],
      }))
      .sort(
        (a, b) =>
          (notClear(b.people) > 0 ? 1 : 0) - (notClear(a.people) > 0 ? 1 : 0) ||
          order(b.people) - order(a.people) ||
          a.area.localeCompare(b.area),
      ),
  };
}

function noteOf(model: EstateModel, ids: readonly string[]): string {
  const first = model.locations.get(ids[0] ?? '');
  if (ids.length > 1) return `${ids.length} places`;
  if (!first) return '';
  if (first.ownLines) return 'own lines';
  return first.downMbps ? `one line, ${first.downMbps} Mbit/s` : 'line rate not known';
}

export interface LeadingFinding {
  kind: string;
  bay: Bay;
  weight: 'blocked' | 'limited' | 'unknown' | 'risk';
  area: string;
  text: string;
  people: number;
  before: Counts;
  /** `named` is how the remedy is called on the example crossing, so that it can be tried there at once. */
  remedy: { text: string; named: string; effect: string; applicable: boolean } | null;
  /** People by verdict once everybody concerned has the remedy. */
  after: Counts;
  /** One crossing that shows it. */
  example: string;
}

/** At most this many crossings of a group are evaluated with their remedies; above it the count says "of the first". */
const mostInGroup = 400;

/** The findings that cost most over the estate: what, where, how many people, and what the best remedy does for them. */
export function leadingFindings(
  reader: FactsReader,
  refs: readonly CrossingRef[],
  summaries: ReadonlyMap<string, Summary>,
  most = 8,
): LeadingFinding[] {
  const { model } = reader;
  const groups = new Map<string, { kind: string; area: string; refs: CrossingRef[]; people: Set<string>; bad: number }>();
  for (const ref of refs) {
    const summary = summaries.get(ref.id);
    if (!summary || summary.verdict === 'clear') continue;
    const location = model.locations.get(ref.location);
    const area = location?.area ?? location?.name ?? '';
    for (const kind of summary.kinds) {
      const key = `${kind}|${area}`;
      let group = groups.get(key);
      if (!group) groups.set(key, (group = { kind, area, refs: [], people: new Set(), bad: 0 }));
      group.refs.push(ref);
      group.people.add(ref.person);
      group.bad += summary.verdict === 'blocked' ? 4 : summary.verdict === 'limited' ? 2 : 0.2;
    }
  }
  const candidates = [...groups.values()].sort((a, b) => b.bad - a.bad).slice(0, most * 3);
  // a crossing stands in several groups, but is evaluated once
  const known = new Map<string, Evaluation | null>();
  const evaluate = (ref: CrossingRef) => {
    let evaluation = known.get(ref.id);
    if (evaluation === undefined) {
      const facts = reader.read(ref);
      known.set(ref.id, (evaluation = facts ? evaluateCrossing(facts) : null));
    }
    return evaluation;
  };
  return candidates
    .flatMap((group) => leading(reader, group, evaluate) ?? [])
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map(({ finding }) => finding);
}

function leading(
  reader: FactsReader,
  group: { kind: string; area: string; refs: CrossingRef[] },
  evaluate: (ref: CrossingRef) => Evaluation | null,
): { finding: LeadingFinding; score: number } | null {
  const before = new Worst();
  const texts = new Map<string, { text: string; named: string; helped: Set<string>; effect: string; applicable: boolean; gain: number }>();
  let first: { text: string; bay: Bay; weight: LeadingFinding['weight']; cost: number; ref: CrossingRef } | null = null;
  let score = 0;
  const people = new Set<string>();
  const seen: { person: string; verdict: Verdict; remedies: Map<string, Verdict> }[] = [];
  for (const ref of group.refs.slice(0, mostInGroup)) {
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
      const key = remedy.change.length
        ? remedy.change
            .map((edit) =>
              edit.type === 'setting'
                ? `${edit.key}=${String(edit.value)}`
                : edit.type === 'object'
                  ? `${edit.kind}.${edit.field}`
                  : `${edit.fact}`,
            )
            .join()
        : remedy.text.replace(ref.endpoint, '');
      const entry = texts.get(key) ?? {
        text: remedy.text.replace(place, group.area),
        named: remedy.text,
        helped: new Set<string>(),
        effect: remedy.effectText,
        applicable: remedy.applicable,
        gain: 0,
      };
      entry.gain += remedy.effect?.gain ?? 0;
      if (remedy.effect?.becomes === 'clear') entry.helped.add(ref.person);
      if (first.ref === ref) entry.named = remedy.text;
      texts.set(key, entry);
      remedies.set(key, remedy.effect?.becomes ?? evaluation.figures.verdict);
    }
    seen.push({ person: ref.person, verdict: evaluation.figures.verdict, remedies });
  }
  if (!first) return null;
  const best = [...texts.entries()].sort(
    ([, a], [, b]) =>
      b.helped.size - a.helped.size || (a.helped.size > 0 ? Number(b.applicable) - Number(a.applicable) : 0) || b.gain - a.gain,
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
            effect: helped ? `${helped} become${helped === 1 ? 's' : ''} Clear` : best[1].effect,
            applicable: best[1].applicable,
          }
        : null,
      after: after.counts(),
      example: first.ref.id,
    },
  };
}
