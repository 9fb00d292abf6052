import type { Change } from '@underpass/contracts';
import { isEmpty } from '../change/index.js';
import { lintCrossing, type CrossingFacts } from '../crossing/index.js';

/** One check that hits, over all crossings on which it does. */
export interface LintedRule {
  rule: string;
  crossings: number;
  people: number;
  /** What it says of the first of them, and what mends it there. */
  cause: string;
  consequence: string;
  remedies: { text: string; change: Change | null; ask: string | null; crossings: number }[];
  examples: { crossing: string; person: string; endpoint: string }[];
}

const mostExamples = 5;
const mostRemedies = 6;
const mostOpen = 2000;

interface Counting {
  cause: string;
  consequence: string;
  crossings: number;
  people: Set<string>;
  remedies: Map<string, LintedRule['remedies'][number]>;
  examples: LintedRule['examples'];
}

/** Runs the checks between settings over many crossings, and puts together what is said of many. */
export class LintTally {
  private readonly rules = new Map<string, Counting>();

  add(facts: CrossingFacts): void {
    for (const { rule, cause, consequence, remedy } of lintCrossing(facts)) {
      let counting = this.rules.get(rule);
      if (!counting)
        this.rules.set(rule, (counting = { cause, consequence, crossings: 0, people: new Set(), remedies: new Map(), examples: [] }));
      counting.crossings++;
      counting.people.add(facts.person.id);
      if (counting.examples.length < mostExamples && !counting.examples.some(({ person }) => person === facts.person.name))
        counting.examples.push({ crossing: facts.ref.id, person: facts.person.name, endpoint: facts.endpoint.id });
      const key = `${remedy.text}|${JSON.stringify(remedy.change)}`;
      const known = counting.remedies.get(key);
      if (known) known.crossings++;
      else if (counting.remedies.size < mostOpen)
        counting.remedies.set(key, {
          text: remedy.text,
          change: isEmpty(remedy.change) ? null : remedy.change,
          ask: remedy.ask ?? null,
          crossings: 1,
        });
    }
  }

  /** What hits most people first. */
  result(): LintedRule[] {
    return [...this.rules]
      .map(([rule, { people, remedies, ...counting }]) => ({
        ...{ rule, ...counting, people: people.size },
        remedies: [...remedies.values()].sort((a, b) => b.crossings - a.crossings).slice(0, mostRemedies),
      }))
      .sort((a, b) => b.people - a.people || b.crossings - a.crossings || (a.rule < b.rule ? -1 : 1));
  }
}
