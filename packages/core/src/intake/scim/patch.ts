import { same } from '../../estate/difference.js';
import { ScimError } from './error.js';
import { matchesValue, parsePath, type ChangePath } from './filter.js';
import { valueAt } from './path.js';
import { assertWhole, valueOf, type ScimResource } from './resource.js';
import { attributeIn, extensionOf, topOf, type ScimAttribute, type ScimKind } from './schema.js';

/** One change of a resource [RFC 7644 3.5.2]. */
export interface PatchOperation {
  op: 'add' | 'remove' | 'replace';
  path?: string | undefined;
  value?: unknown;
}

/**
 * A resource with changes made to it, one after the other: all of them, or none.
 * @throws ScimError `invalidPath`, `noTarget`, `mutability`, `invalidValue`
 * @source RFC 7644 3.5.2
 */
export function patched(kind: ScimKind, resource: ScimResource, operations: readonly PatchOperation[]): ScimResource {
  const next = structuredClone(resource);
  for (const operation of operations) {
    const { op, path, value } = operation;
    if (path !== undefined && path !== '') change(next, op, parsePath(kind, path), value);
    else if (op === 'remove') throw new ScimError('noTarget', 'a path must say what is removed');
    else whole(kind, next, op, value);
  }
  assertWhole(kind, next);
  return next;
}

/** Without a path the value holds the attributes; those of an extension stand under its address, or each with it before its name. */
function whole(kind: ScimKind, next: ScimResource, op: 'add' | 'replace', value: unknown): void {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new ScimError('invalidValue', 'without a path the value must be an object of attributes');
  for (const [name, part] of Object.entries(value)) {
    if (name.toLowerCase() === 'schemas') continue;
    const extension = extensionOf(kind, name);
    if (extension && typeof part === 'object' && part !== null && !Array.isArray(part))
      for (const [inner, each] of Object.entries(part)) change(next, op, parsePath(kind, `${extension.id}:${inner}`), each);
    // what no schema knows is left out, as it is in a whole resource
    else if (/[.:]/.test(name) || attributeIn(topOf(kind), name)) {
      const path = parsePath(kind, name);
      // what is ours to say may stand in what somebody sends back as it is
      if (path.attribute.mutability !== 'readOnly') change(next, op, path, part);
    }
  }
}

function change(resource: ScimResource, op: PatchOperation['op'], path: ChangePath, value: unknown): void {
  const { attribute, sub, extension, of } = path;
  if (attribute.mutability === 'readOnly' || sub?.mutability === 'readOnly')
    throw new ScimError('mutability', `“${sub?.name ?? attribute.name}” cannot be changed`);
  if (attribute.mutability === 'writeOnly') return;
  const holder = extension === null ? resource : ((resource[extension] ??= {}) as ScimResource);
  if (of && !attribute.multiValued) throw new ScimError('invalidPath', `“${attribute.name}” has one value alone`);
  if (attribute.multiValued) changeSeveral(holder, op, path, value);
  else if (sub) {
    const inner = { ...(holder[attribute.name] as object | undefined) } as Record<string, unknown>;
    put(inner, sub, op === 'remove' ? undefined : value);
    put(holder, attribute, Object.keys(inner).length ? inner : undefined);
  } else if (op !== 'remove' && attribute.type === 'complex' && typeof value === 'object' && value !== null)
    // parts that are not named stay [RFC 7644 3.5.2.1, 3.5.2.3]
    put(holder, attribute, { ...(holder[attribute.name] as object | undefined), ...named(attribute, value) });
  else put(holder, attribute, op === 'remove' ? undefined : value);
  if (extension !== null && Object.keys(holder).length === 0) delete resource[extension];
}

/** Parts under the names the schema writes. */
function named({ subAttributes = [] }: ScimAttribute, value: object | null): object {
  return Object.fromEntries(
    subAttributes.map((sub) => [sub.name, valueAt(value, sub.name)] as const).filter(([, each]) => each !== undefined),
  );
}

function put(holder: Record<string, unknown>, attribute: ScimAttribute, value: unknown): void {
  const read = valueOf(attribute, value);
  if (read === undefined || read === '') delete holder[attribute.name];
  else holder[attribute.name] = read;
}

function changeSeveral(holder: ScimResource, op: PatchOperation['op'], { attribute, sub, of }: ChangePath, value: unknown): void {
  const { name } = attribute;
  const there = (holder[name] ?? []) as unknown[];
  const keep = (list: readonly unknown[]) => {
    const read = valueOf(attribute, list);
    if (read === undefined) delete holder[name];
    else holder[name] = read;
  };
  const chosen = (each: unknown): boolean => of === null || matchesValue(of, each);
  if (of !== null && !there.some(chosen)) {
    // one that is asked for by what it is, such as emails[type eq "work"], is made [common practice, no source]
    if (op === 'remove' || !sub) throw new ScimError('noTarget', `no value of “${name}” is what the path asks for`);
    return keep([...there, { ...asked(of), [sub.name]: value }]);
  }
  if (sub) {
    if (op === 'remove') return keep(there.map((each) => (chosen(each) ? without(each, sub.name) : each)));
    if (there.length === 0) return keep([{ [sub.name]: value }]);
    return keep(first(there, chosen, sub, value));
  }
  if (op === 'remove') {
    if (of !== null) return keep(there.filter((each) => !chosen(each)));
    // some name the values to remove beside the path
    const gone = value === undefined || value === null ? null : listed(attribute, value);
    return keep(gone === null ? [] : there.filter(notIn(gone)));
  }
  if (of !== null) return keep(there.map((each) => (chosen(each) ? mergedWith(op, each, valueOf(attribute, value, true)) : each)));
  if (op === 'replace') return keep(listed(attribute, value));
  const fresh = listed(attribute, value).filter(notIn(there));
  // of several only one comes first: the one that is added [RFC 7644 3.5.2.1]
  keep([...there, ...fresh]);
}

const listed = (attribute: ScimAttribute, value: unknown): unknown[] =>
  (valueOf(attribute, Array.isArray(value) ? value : [value]) ?? []) as unknown[];
const mergedWith = (op: 'add' | 'replace', each: unknown, value: unknown): unknown =>
  op === 'add' && typeof each === 'object' && typeof value === 'object' ? { ...each, ...value } : value;
const without = (each: unknown, name: string): unknown =>
  Object.fromEntries(Object.entries(each as object).filter(([key]) => key !== name));

/** A part of each value that is chosen. Where it is said that one comes first, the others do not any more. */
function first(there: readonly unknown[], chosen: (each: unknown) => boolean, sub: ScimAttribute, value: unknown): unknown[] {
  const read = valueOf(sub, value);
  return there.map((each) => {
    if (chosen(each)) return { ...(each as object), [sub.name]: read };
    return sub.name === 'primary' && read === true ? { ...(each as object), primary: false } : each;
  });
}

/** Whether two values are one: by their key where they have one. */
function isSame(a: unknown, b: unknown): boolean {
  const [x, y] = [valueAt(a, 'value'), valueAt(b, 'value')];
  if (typeof a === 'object' && x !== undefined && y !== undefined) {
    const [s, t] = [valueAt(a, 'type'), valueAt(b, 'type')];
    return x === y && (s === undefined || t === undefined || s === t);
  }
  return same(a, b);
}

/** Whether a value is none of these; they are found by their key, of which a group may have many. */
function notIn(list: readonly unknown[]): (each: unknown) => boolean {
  const byKey = new Map<unknown, unknown[]>();
  for (const one of list) byKey.set(valueAt(one, 'value'), [...(byKey.get(valueAt(one, 'value')) ?? []), one]);
  return (each) => !(byKey.get(valueAt(each, 'value')) ?? []).some((one) => isSame(one, each));
}

/** What a filter of equalities says of a value that is to be made. */
function asked(of: ChangePath['of']): Record<string, unknown> {
  if (of?.is === 'compared' && of.by === 'eq' && of.value !== null) return { [of.path.attribute.name]: of.value };
  if (of?.is === 'and') return { ...asked(of.left), ...asked(of.right) };
  return {};
}
