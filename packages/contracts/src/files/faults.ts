import type { z } from 'zod';
import './wording.js';

/** One thing a schema refuses: where, and what is wrong with it. */
export interface Fault {
  path: readonly string[];
  problem: string;
}

/** Faults told of one value; more are counted, so that nonsense cannot make an endless answer. */
const mostFaults = 100;
const shown = (name: string): string => (name.length > 60 ? `${name.slice(0, 60)}…` : name);

interface Issue {
  code?: string;
  message: string;
  path?: readonly (PropertyKey | { key: PropertyKey })[] | undefined;
  keys?: readonly string[];
}
const pathOf = (issue: Issue): string[] => (issue.path ?? []).map((part) => String(typeof part === 'object' ? part.key : part));

/** The faults a schema found, each at its own field: a field nobody knows is told at itself, not at what holds it. */
export function faultsOfIssues(issues: readonly Issue[]): Fault[] {
  const faults = issues.flatMap((issue): Fault[] => {
    const path = pathOf(issue);
    if (issue.code === 'unrecognized_keys' && issue.keys)
      return issue.keys.map((key) => ({ path: [...path, shown(key)], problem: 'is not a field here' }));
    return [{ path, problem: issue.message }];
  });
  if (faults.length <= mostFaults) return faults;
  return [...faults.slice(0, mostFaults), { path: [], problem: `and ${faults.length - mostFaults} more faults` }];
}

export const faultsOfError = (error: z.ZodError): Fault[] => faultsOfIssues(error.issues as Issue[]);
