import type { Bay, ObjectKind, Verdict } from '@underpass/contracts';
import { noChange } from '../../../change/index.js';
import type { OpenField } from '../../assumedFields.js';
import { cost, type FindingKind } from '../../finding.js';

/** Fields whose name says too little. */
const own: Readonly<Record<string, string>> = {
  lineKind: 'kind of line',
  clientKind: 'kind of client',
  work: 'kind of work',
  securityModes: 'ways in',
};
/** Most objects and remedies that are named. */
const mostNamed = 2;

/** A field’s name in words. @example wordsOf('lineKind') is "kind of line" */
const wordsOf = (field: string): string =>
  field === 'latitude' ? 'place on the map' : (own[field] ?? field).replace(/([A-Z])/g, ' $1').toLowerCase();
const listed = (texts: readonly string[]): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} and ${texts.at(-1)}`;
const valueText = (value: unknown): string =>
  Array.isArray(value) ? value.join(' and ') : typeof value === 'object' ? 'another mix' : String(value);

const told = (verdict: Verdict): string => `${verdict[0]?.toUpperCase()}${verdict.slice(1)}`;

/** What it would come to if the field were otherwise, the worst first. */
function otherwiseText({ field, otherwise, together }: OpenField): string {
  if (together) return `together with the others it may be ${told(together)}`;
  if (field === 'latitude') return 'it may be far away';
  const [worst] = [...otherwise].sort((a, b) => order.indexOf(a.verdict) - order.indexOf(b.verdict));
  return worst ? `if it were ${valueText(worst.value)}, it would be ${told(worst.verdict)}` : '';
}
const order: readonly Verdict[] = ['blocked', 'limited', 'unknown', 'clear'];

/** The bay in which each kind of object lies. */
const bayOf: Partial<Record<ObjectKind, Bay>> = { location: 'Link', region: 'Link', gateway: 'Gateway', endpoint: 'Endpoint' };

/** Fields that nobody knows are taken to be so, and the verdict hangs on them. */
export const assumedDecides: FindingKind = {
  kind: 'what is assumed decides',
  bay: 'Endpoint',
  weight: 'unknown',
  detect: (_, { openFields }) => {
    if (!openFields?.length) return null;
    const byObject = new Map<string, string[]>();
    for (const { field, name } of openFields) byObject.set(name, [...(byObject.get(name) ?? []), wordsOf(field)]);
    const named = [...byObject].slice(0, mostNamed).map(([name, fields]) => `the ${listed(fields)} of ${name}`);
    const more = byObject.size - named.length;
    const [first] = openFields;
    return {
      text: `Nobody knows ${listed([...named, ...(more > 0 ? [`something of ${more} more`] : [])])}, and it decides`,
      // what a measurement tells comes first: much that is assumed of a place decides no more then
      cost: cost.notKnown,
      costText: openFields.length === 1 ? '1 fact' : `${openFields.length} facts`,
      sure: 'rests on an assumption',
      bay: (first && bayOf[first.kind]) ?? 'Host',
      evidence: () =>
        openFields.map((open) => ({
          source: 'assumed' as const,
          text: `${wordsOf(open.field)} of ${open.name} is taken to be ${open.field === 'latitude' ? 'here' : valueText(open.value)}; ${otherwiseText(open)}`,
        })),
      remedies: () =>
        openFields.slice(0, mostNamed).map(({ field, name }) => ({
          text: `Say the ${wordsOf(field)} of ${name}`,
          change: noChange,
          ask: 'ask whoever has it; 1 minute',
        })),
    };
  },
};
