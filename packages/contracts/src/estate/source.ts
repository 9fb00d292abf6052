import { z } from 'zod';
import { boundedRecord } from '../bounds.js';
import { ObjectKindWord } from './change.js';

/** Where a fact comes from: typed here, told by the device itself, a directory that is read, one that sends, a list, or files. */
export const SourceClass = z.enum(['typed', 'device', 'ldap', 'scim', 'list', 'files']);
export type SourceClass = z.infer<typeof SourceClass>;

/** What decides where nobody says otherwise: what somebody typed before all, what was there before sources were told after all. */
export const usualOrder: readonly SourceClass[] = SourceClass.options;

/** How they are called. */
export const sourceWords: Readonly<Record<SourceClass, string>> = {
  typed: 'Typed here',
  device: 'The device itself',
  ldap: 'Directory that is read',
  scim: 'Directory that sends',
  list: 'List',
  files: 'Estate files',
};

const Order = z
  .array(SourceClass)
  .length(SourceClass.options.length)
  .refine((each) => new Set(each).size === each.length, 'must name each source once');

/** Which source decides: for each kind, and for single fields of it. What is not named follows the usual order. */
export const SourceOrder = z
  .partialRecord(
    ObjectKindWord,
    z.strictObject({
      all: Order.optional().describe('For every field, the deciding one first'),
      fields: boundedRecord(z.string().regex(/^[a-z][A-Za-z0-9]{0,59}$/, 'must be a field'), Order, 100).default({}),
    }),
  )
  .meta({ id: 'SourceOrder' });
export type SourceOrder = z.infer<typeof SourceOrder>;

/** An order that takes the place of the one somebody saw. */
export const SourceOrderRequest = z
  .strictObject({ order: SourceOrder, was: SourceOrder.optional().describe('The order it was made from') })
  .meta({ id: 'SourceOrderRequest' });

/** A source by its class and, where there may be several of it, its name: `list:Inventory`. */
export const sourceOf = (kind: SourceClass, name = ''): string => (name === '' ? kind : `${kind}:${name}`);
