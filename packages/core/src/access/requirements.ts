import type { Condition, RequirementSet } from '@underpass/contracts';
import { compareVersions } from '../settings/index.js';

type Test = Condition['when'];

/** Names of the facts that a test asks for, however deep. */
export const factsIn = (test: Test): string[] => [
  ...(test.fact === undefined ? [] : [test.fact]),
  ...[...(test.all ?? []), ...(test.any ?? []), ...(test.not ? [test.not] : [])].flatMap(factsIn),
];

/** Names of the facts that a set asks for: for whom it is, its conditions and what will do instead. */
export const factsOfSet = ({ appliesTo, conditions }: RequirementSet): string[] => [
  ...factsIn(appliesTo),
  ...conditions.flatMap(({ when, alternatives }) => [...factsIn(when), ...alternatives.flatMap((each) => factsIn(each.when))]),
];

/** Reads a fact by its name; undefined where it is not known. */
export type FactReader = (fact: string) => unknown;

const isVersion = (value: unknown): value is string => typeof value === 'string' && /^\d/.test(value);

/** −1, 0 or 1 for numbers and versions; null where the two cannot be compared. */
function compared(a: unknown, b: string | number): number | null {
  if (typeof a === 'number' && typeof b === 'number') return Math.sign(a - b);
  const [left, right] = [typeof a === 'number' ? String(a) : a, String(b)];
  return isVersion(left) && isVersion(right) ? compareVersions(left, right) : null;
}

/** Entries of a list of programs may carry a version: "file-sync 24.1". */
const namesOf = (list: readonly unknown[]): string[] => list.map((entry) => String(entry).split(' ')[0] as string);

/**
 * A test over facts, in three values: true, false, or null where a fact is missing that would decide (Kleene's strong logic).
 */
export function evaluateTest(test: Test, read: FactReader): boolean | null {
  if (test.all) return combine(test.all, read, false);
  if (test.any) return combine(test.any, read, true);
  if (test.not) {
    const inner = evaluateTest(test.not, read);
    return inner === null ? null : !inner;
  }
  const value = read(test.fact as string);
  const isKnown = value !== undefined && value !== null;
  if (test.known !== undefined) return isKnown === test.known;
  if (!isKnown) return null;
  if (test.is !== undefined) return value === test.is;
  if (test.isNot !== undefined) return value !== test.isNot;
  if (test.oneOf) return test.oneOf.includes(value as string);
  if (test.includes !== undefined)
    return Array.isArray(value) ? namesOf(value).includes(test.includes) || value.includes(test.includes) : null;
  if (test.order) {
    if (!Array.isArray(value)) return null;
    const names = namesOf(value);
    const places = test.order.map((name) => names.indexOf(name));
    return places.every((place, i) => place >= 0 && (i === 0 || place > (places[i - 1] as number)));
  }
  const order = compared(value, (test.atLeast ?? test.below) as string | number);
  return order === null ? null : test.atLeast !== undefined ? order >= 0 : order < 0;
}

/** any: the first true decides; all: the first false does. Otherwise a missing fact leaves it open. */
function combine(tests: readonly Test[], read: FactReader, decides: boolean): boolean | null {
  let open = false;
  for (const test of tests) {
    const result = evaluateTest(test, read);
    if (result === decides) return decides;
    open ||= result === null;
  }
  return open ? null : !decides;
}

/** How a condition stands on one crossing. */
export interface ConditionResult {
  condition: Condition;
  state: 'met' | 'fallback' | 'not met' | 'not known';
  /** The alternative that will do, with its cost. */
  alternative: Condition['alternatives'][number] | null;
}
/** How a whole requirement set stands: worst condition first. */
export type Readiness = 'ready' | 'fallback' | 'not ready' | 'not known';
/** A requirement set evaluated on one crossing. */
export interface SetResult {
  readiness: Readiness;
  conditions: ConditionResult[];
}

/** One condition on one crossing: met, done otherwise (the first alternative that holds), not met, or not known. */
export function evaluateCondition(condition: Condition, read: FactReader): ConditionResult {
  const met = evaluateTest(condition.when, read);
  if (met === true) return { condition, state: 'met', alternative: null };
  const alternative = condition.alternatives.find(({ when }) => evaluateTest(when, read) === true) ?? null;
  return { condition, state: alternative ? 'fallback' : met === null ? 'not known' : 'not met', alternative };
}

/** Whether a set is for the crossing: a fact that is missing leaves it out. */
export const applies = (set: RequirementSet, read: FactReader): boolean => evaluateTest(set.appliesTo, read) === true;

/** One crossing against a set. The worst condition decides: not met, then not known, then a fallback. */
export function evaluateSet(set: RequirementSet, read: FactReader): SetResult {
  const conditions = set.conditions.map((condition) => evaluateCondition(condition, read));
  const has = (state: ConditionResult['state']) => conditions.some((each) => each.state === state);
  return {
    readiness: has('not met') ? 'not ready' : has('not known') ? 'not known' : has('fallback') ? 'fallback' : 'ready',
    conditions,
  };
}
