import { ScimError } from './error.js';
import { valueAt } from './path.js';
import { extensionOf, topOf, type ScimAttribute, type ScimKind } from './schema.js';

/** A resource as it is kept: names as the schemas write them, nothing that is ours to say. */
export type ScimResource = Record<string, unknown>;

const mostValues = 20_000;
const longestText = 4000;
/** Certificates and what else is written in base64. */
const longestBinary = 20 * longestText;

/** A value as its attribute wants it. @throws ScimError `invalidValue` */
export function valueOf(attribute: ScimAttribute, value: unknown, one = false): unknown {
  const { name, type, multiValued } = attribute;
  if (value === null || value === undefined) return undefined;
  if (multiValued && !one) {
    const list = Array.isArray(value) ? value : [value];
    if (list.length > mostValues) throw new ScimError('invalidValue', `“${name}” has more than ${mostValues} values`);
    return onePrimary(list.map((each) => valueOf(attribute, each, true)).filter((each) => each !== undefined));
  }
  if (Array.isArray(value)) throw new ScimError('invalidValue', `“${name}” has one value, not a list`);
  if (type === 'complex') return partsOf(attribute, value);
  return simple(attribute, value);
}

function simple({ name, type }: ScimAttribute, value: unknown): string | number | boolean {
  const wrong = (wanted: string) => new ScimError('invalidValue', `“${name}” must be ${wanted}`);
  if (type === 'boolean') {
    if (typeof value === 'boolean') return value;
    // some write it as a text, and leave no doubt
    if (typeof value === 'string' && /^(true|false)$/i.test(value)) return value.toLowerCase() === 'true';
    throw wrong('true or false');
  }
  if (type === 'integer' || type === 'decimal') {
    if (typeof value !== 'number' || !Number.isFinite(value) || (type === 'integer' && !Number.isInteger(value)))
      throw wrong(type === 'integer' ? 'a whole number' : 'a number');
    return value;
  }
  if (typeof value !== 'string') throw wrong('a text');
  const longest = type === 'binary' ? longestBinary : longestText;
  if (value.length > longest) throw wrong(`at most ${longest} characters`);
  if (type === 'dateTime' && Number.isNaN(Date.parse(value))) throw wrong('a time as 2026-11-27T08:00:00Z');
  return value;
}

function partsOf({ name, subAttributes = [], multiValued }: ScimAttribute, value: unknown): Record<string, unknown> | undefined {
  const whole = typeof value === 'object' ? (value as object) : multiValued ? { value } : null;
  if (!whole) throw new ScimError('invalidValue', `“${name}” must be an object with its parts`);
  const read: Record<string, unknown> = {};
  for (const sub of subAttributes) {
    // what is ours to say is told anew each time
    if (sub.mutability === 'readOnly') continue;
    const part = valueOf(sub, valueAt(whole, sub.name));
    if (part !== undefined) read[sub.name] = part;
  }
  return Object.keys(read).length ? read : undefined;
}

/** Of several only one comes first: the last that says so [RFC 7643 2.4, RFC 7644 3.5.2]. */
function onePrimary(list: readonly unknown[]): unknown[] | undefined {
  const last = list.findLastIndex((each) => valueAt(each, 'primary') === true);
  const next = list.map((each, i) => (i !== last && valueAt(each, 'primary') === true ? { ...(each as object), primary: false } : each));
  return next.length ? next : undefined;
}

/**
 * A resource as somebody sends it: attributes the schemas know, with names as they write them, without what is ours to say. What no
 * schema knows is left out. Passwords are never kept.
 * @throws ScimError where a value is not what its attribute wants, or a required one is missing
 * @source RFC 7643 2, 3; RFC 7644 3.3
 */
export function readResource(kind: ScimKind, sent: object): ScimResource {
  const resource: ScimResource = {};
  const read = (list: readonly ScimAttribute[], from: object, into: Record<string, unknown>) => {
    for (const attribute of list) {
      if (attribute.mutability === 'readOnly' || attribute.mutability === 'writeOnly' || attribute.name === 'schemas') continue;
      const value = valueOf(attribute, valueAt(from, attribute.name));
      if (value !== undefined) into[attribute.name] = value;
      else if (attribute.required) throw new ScimError('invalidValue', `“${attribute.name}” is missing`);
    }
  };
  const schemas = valueAt(sent, 'schemas');
  if (!Array.isArray(schemas) || !schemas.some((each) => String(each).toLowerCase() === kind.schema.id.toLowerCase()))
    throw new ScimError('invalidSyntax', `“schemas” must name ${kind.schema.id}`);
  read(topOf(kind), sent, resource);
  for (const { id, attributes } of kind.extensions) {
    const part = valueAt(sent, id);
    if (part === undefined || part === null) continue;
    if (typeof part !== 'object' || Array.isArray(part)) throw new ScimError('invalidValue', `“${id}” must be an object`);
    const inner: Record<string, unknown> = {};
    read(attributes, part, inner);
    if (Object.keys(inner).length) resource[id] = inner;
  }
  assertWhole(kind, resource);
  return resource;
}

/** A required text that is empty says nothing. */
export function assertWhole(kind: ScimKind, resource: ScimResource): void {
  for (const { name, required } of kind.schema.attributes)
    if (required && (typeof resource[name] !== 'string' || (resource[name] as string).trim() === ''))
      throw new ScimError('invalidValue', `“${name}” must not be empty`);
}

/** The schemas that stand in a resource: its own, and the extensions of which something is said. */
export const schemasIn = (kind: ScimKind, resource: ScimResource): string[] => [
  kind.schema.id,
  ...Object.keys(resource).flatMap((key) => {
    const extension = extensionOf(kind, key);
    return extension ? [extension.id] : [];
  }),
];
