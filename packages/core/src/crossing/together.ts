import { combine, isApplicable, isEmpty } from '../change/index.js';
import { effectOf } from './effect.js';
import { figuresAfter, type Evaluation, type Remedy } from './evaluate.js';
import type { CrossingFacts } from './facts.js';

/** Several remedies at once, where no single one is enough. */
export interface RemedyTogether extends Remedy {
  parts: string[];
}

const reached = { clear: 0, unknown: 1, limited: 2, blocked: 3 };
/** Remedies that are put together: the best of each finding, and no more than this, so that pairs and triples are few. */
const [mostEach, mostAll, mostPairs] = [3, 8, 4];
/** How many are told. */
const mostTold = 3;

/** What a remedy asks of people: nothing but a setting, a decision that is recorded, or work outside. */
const dearness = ({ applicable, change }: Remedy): number =>
  !applicable ? 10 : change.patches.every((patch) => patch.do === 'setting') ? 1 : 3;

/**
 * Pairs and triples of remedies that come to a better verdict than any single one: cheapest first by who has to act, then by how many
 * parts they have, then by what they gain. Nothing where a single remedy is enough, or nothing is wrong.
 */
export function remediesTogether(facts: CrossingFacts, { figures, findings }: Evaluation): RemedyTogether[] {
  if (figures.verdict === 'clear') return [];
  const single: Remedy[] = [];
  const seen = new Set<string>();
  for (const { remedies, weight } of findings)
    if (weight !== 'risk')
      for (const remedy of remedies.slice(0, mostEach)) {
        const key = JSON.stringify(remedy.change);
        if (isEmpty(remedy.change) || !remedy.effect || seen.has(key)) continue;
        seen.add(key);
        single.push(remedy);
      }
  const best = Math.min(reached[figures.verdict], ...single.map(({ effect }) => reached[effect?.becomes ?? 'blocked']));
  if (best === 0 || single.length < 2) return [];
  const candidates = single.sort((a, b) => (b.effect?.gain ?? 0) - (a.effect?.gain ?? 0)).slice(0, mostAll);
  const tried = new Map<string, RemedyTogether | null>();
  const put = (parts: readonly Remedy[]): RemedyTogether | null => {
    const key = parts
      .map(({ text }) => text)
      .sort()
      .join('\n');
    const known = tried.get(key);
    if (known !== undefined) return known;
    const change = parts.map((part) => part.change).reduce(combine);
    const after = figuresAfter(facts, change);
    const effect = after && effectOf(figures, after);
    const texts = parts.map(({ text }) => text);
    const made = effect && {
      text: texts
        .map((text, i) => (i === 0 || /^[A-Z]\S* ?[A-Z0-9]/.test(text) ? text : text.charAt(0).toLowerCase() + text.slice(1)))
        .join(', and '),
      parts: texts,
      change,
      applicable: isApplicable(change),
      effect,
      effectText: effect.text,
    };
    tried.set(key, made);
    return made;
  };
  const gain = (together: RemedyTogether | null) => together?.effect?.gain ?? -Infinity;
  const enough = (list: (RemedyTogether | null)[]) =>
    list.filter((together): together is RemedyTogether => together !== null && reached[together.effect?.becomes ?? 'blocked'] < best);
  const pairs = candidates.flatMap((a, i) => candidates.slice(i + 1).map((b) => ({ parts: [a, b], together: put([a, b]) })));
  let found = enough(pairs.map(({ together }) => together));
  if (!found.some(({ effect }) => effect?.becomes === 'clear')) {
    const promising = pairs.sort((a, b) => gain(b.together) - gain(a.together)).slice(0, mostPairs);
    found = [
      ...found,
      ...enough(promising.flatMap(({ parts }) => candidates.filter((c) => !parts.includes(c)).map((c) => put([...parts, c])))),
    ];
  }
  const cost = ({ parts }: RemedyTogether) =>
    parts.reduce((sum, text) => sum + dearness(candidates.find((candidate) => candidate.text === text) as Remedy), 0);
  return [...new Set(found)]
    .sort(
      (a, b) =>
        reached[a.effect?.becomes ?? 'blocked'] - reached[b.effect?.becomes ?? 'blocked'] ||
        cost(a) - cost(b) ||
        a.parts.length - b.parts.length ||
        gain(b) - gain(a),
    )
    .slice(0, mostTold);
}
