import { z } from 'zod';
import { boundedRecord } from '../bounds.js';
import { objectKinds, type ObjectKind } from '../estate/estate.js';

const Heading = z.string().trim().min(1, 'must not be empty').max(300);
const FieldName = z.string().min(1, 'must not be empty').max(80);
const Text = z.string().max(2000);
const KindWord = z.enum(objectKinds as [ObjectKind, ...ObjectKind[]]);

/** What one or several columns come to: one field, or several by a pattern. */
export const MappedColumn = z
  .strictObject({
    from: z
      .union([Heading, z.array(Heading).min(1).max(8)])
      .describe('Column of the list by its name; several are put one behind the other'),
    with: z.string().max(20).default(' ').describe('What stands between several'),
    to: FieldName.optional().describe('Field it fills'),
    pattern: z
      .string()
      .max(200)
      .optional()
      .describe('How one text holds several fields, each in braces: {location}-{name} parts “WEX-PC 7” at its first dash'),
    values: boundedRecord(Text, Text, 2000).optional().describe('What stands in the list → what it means here; empty: nothing is known'),
  })
  .refine(({ to, pattern }) => (to === undefined) !== (pattern === undefined), 'must have either “to” or “pattern”')
  .refine(({ pattern }) => pattern === undefined || /\{[^{}]+\}/.test(pattern), 'must have a field in braces in its pattern');

/** How a list of somebody’s becomes objects of a kind. It is kept by name, and used again on the next list of its like. */
export const TableMap = z
  .strictObject({
    kind: KindWord,
    key: FieldName.default('id').describe('Field by which a row is found among what is there'),
    columns: z.array(MappedColumn).max(500),
    constants: boundedRecord(FieldName, Text, 200).default({}).describe('Fields that are the same for all rows'),
    make: z
      .partialRecord(KindWord, boundedRecord(FieldName, Text, 200))
      .default({})
      .describe('Kinds that are made where a name is not there yet, with what all those made have in common'),
    heads: z.array(Heading).max(500).optional().describe('Names of the columns when the mapping was made, to notice another list'),
    sheet: z.string().max(200).optional().describe('Sheet of the workbook'),
    headerRow: z.number().int().min(0).max(1000).optional().describe('Line that names the columns; 0: none does'),
    delimiter: z.string().length(1).optional(),
  })
  .meta({ id: 'TableMap' });
export type TableMap = z.infer<typeof TableMap>;
export type MappedColumn = z.infer<typeof MappedColumn>;
