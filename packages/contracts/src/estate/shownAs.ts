import { z } from 'zod';

/** Texts that a form shows otherwise than in one line: text of many lines, whose blanks and ends count, or a secret. */
export const shownAs = z.registry<{ as: 'lines' | 'secret' }>();

/** Words for yes and no that a table takes beside those two, where people say it otherwise. */
export const saidAs = z.registry<{ yes: readonly string[]; no: readonly string[] }>();

/** Texts that stand in files as they are written: a document's bare 0123 is one of them, and not a number. */
export const asWritten = z.registry<{ words: true }>();

/** A schema without what is wrapped around it: optional, default, a list of it. */
function inside(schema: z.ZodType): z.ZodType {
  const { def } = (schema as unknown as { _zod: { def: { innerType?: z.ZodType; element?: z.ZodType } } })._zod;
  const next = def.innerType ?? def.element;
  return next ? inside(next) : schema;
}

/** Names of the fields of a schema that are texts as written, wherever in it they stand. */
export function fieldsAsWritten(schema: z.ZodType): ReadonlySet<string> {
  const found = new Set<string>();
  // what names itself again is looked at once
  const seen = new Set<z.ZodType>();
  const look = (each: z.ZodType) => {
    const object = inside(each);
    if (!(object instanceof z.ZodObject) || seen.has(object)) return;
    seen.add(object);
    for (const [name, field] of Object.entries(object.shape as Record<string, z.ZodType>)) {
      if (asWritten.get(inside(field) as z.ZodString)) found.add(name);
      else look(field);
    }
  };
  look(schema);
  return found;
}
