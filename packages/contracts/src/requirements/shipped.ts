import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Estate } from '../estate/estate.js';
import { RequirementSet } from '../estate/requirement.js';
import { readDocument } from '../files/document.js';
import type { FileProblem } from '../files/problem.js';

const folder = fileURLToPath(new URL('../../requirements', import.meta.url));
let known: readonly RequirementSet[] | null = null;

/** The requirement sets that ship with the product, read once. Not for the browser: it asks the server. */
export function shippedSets(): readonly RequirementSet[] {
  if (known) return known;
  const problems: FileProblem[] = [];
  const sets = readdirSync(folder)
    .filter((name) => name.endsWith('.yaml'))
    .sort()
    .flatMap((name) => readDocument(name, readFileSync(join(folder, name), 'utf8'), RequirementSet, problems).map(({ value }) => value));
  if (problems.length) throw new Error(problems.map((p) => `${p.file}:${p.line}: ${p.field} ${p.problem}`).join('\n'));
  return (known = sets);
}

/** The estate with the shipped sets it has not made its own. */
export const withShippedSets = (estate: Estate): Estate => {
  const own = new Set(estate.requirement.map(({ id }) => id));
  return { ...estate, requirement: [...estate.requirement, ...shippedSets().filter(({ id }) => !own.has(id))] };
};
