import { ScimError, type ScimFault } from './error.js';
import { attributeIn, extensionOf, topOf, type ScimAttribute, type ScimKind } from './schema.js';

/** The way to an attribute: in which extension, which one, and which of its parts. */
export interface AttributePath {
  /** Address of the extension; null in the resource itself. */
  extension: string | null;
  attribute: ScimAttribute;
  sub: ScimAttribute | null;
}

const named = /^[A-Za-z$][A-Za-z0-9_$-]*$/;

/**
 * The attribute a text names: `userName`, `name.familyName`, or with the address of its schema before it and a colon between.
 * @throws ScimError where there is no such attribute
 * @source RFC 7644 3.10
 */
export function pathOf(kind: ScimKind, text: string, fault: ScimFault): AttributePath {
  const { schema, rest } = schemaOf(kind, text, fault);
  const list = schema === null ? topOf(kind) : (extensionOf(kind, schema)?.attributes ?? []);
  const [name = '', sub, ...more] = rest.split('.');
  if (more.length || !named.test(name) || (sub !== undefined && !named.test(sub)))
    throw new ScimError(fault, `“${text}” is not the name of an attribute`);
  const attribute = attributeIn(list, name);
  if (!attribute) throw new ScimError(fault, `${kind.name} has no attribute “${rest}”`);
  const part = sub === undefined ? null : attributeIn(attribute.subAttributes, sub);
  if (part === undefined) throw new ScimError(fault, `“${attribute.name}” has no part “${sub}”`);
  return { extension: schema, attribute, sub: part };
}

/** Address of the schema before an attribute's name. A schema's own attributes stand in the resource itself. */
function schemaOf(kind: ScimKind, text: string, fault: ScimFault): { schema: string | null; rest: string } {
  if (!/^urn:/i.test(text)) return { schema: null, rest: text };
  for (const { id } of [kind.schema, ...kind.extensions])
    if (text.toLowerCase().startsWith(`${id.toLowerCase()}:`))
      return { schema: id === kind.schema.id ? null : id, rest: text.slice(id.length + 1) };
  throw new ScimError(fault, `“${text}” names no schema of ${kind.name}`);
}

/** A value by its name, whatever its case. */
export function valueAt(object: unknown, name: string): unknown {
  if (typeof object !== 'object' || object === null) return undefined;
  if (Object.hasOwn(object, name)) return (object as Record<string, unknown>)[name];
  const key = Object.keys(object).find((each) => each.toLowerCase() === name.toLowerCase());
  return key === undefined ? undefined : (object as Record<string, unknown>)[key];
}

/** The object that holds an attribute: the resource, or its extension. */
export const holderOf = (resource: object, { extension }: Pick<AttributePath, 'extension'>): unknown =>
  extension === null ? resource : valueAt(resource, extension);
