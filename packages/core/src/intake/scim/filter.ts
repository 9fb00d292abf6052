import { ScimError, type ScimFault } from './error.js';
import { holderOf, pathOf, valueAt, type AttributePath } from './path.js';
import { attributeIn, type ScimAttribute, type ScimKind } from './schema.js';

/** How two values are compared [RFC 7644 table 3]. */
export type Comparison = 'eq' | 'ne' | 'co' | 'sw' | 'ew' | 'gt' | 'ge' | 'lt' | 'le';
const comparisons: readonly string[] = ['eq', 'ne', 'co', 'sw', 'ew', 'gt', 'ge', 'lt', 'le'];
type Value = string | number | boolean | null;

/** What is asked of a resource, or of one value of an attribute. */
export type Filter =
  | { is: 'and' | 'or'; left: Filter; right: Filter }
  | { is: 'not'; of: Filter }
  | { is: 'present'; path: AttributePath }
  | { is: 'compared'; path: AttributePath; by: Comparison; value: Value }
  | { is: 'values'; path: AttributePath; of: Filter };

const longest = 2000;
const mostParts = 200;
const deepest = 20;

type Token = { text: string; value?: Value; is: 'word' | 'value' | 'sign'; at: number };

/** Words, values as JSON has them, and brackets. */
function tokensOf(text: string, fault: ScimFault): Token[] {
  const tokens: Token[] = [];
  const one = /\s+|"(?:[^"\\]|\\.)*"|[()[\]]|[^\s()[\]"]+/y;
  while (one.lastIndex < text.length) {
    const at = one.lastIndex;
    const [part] = one.exec(text) ?? [];
    if (part === undefined) throw new ScimError(fault, `the text that begins at character ${at + 1} does not end`);
    if (/^\s/.test(part)) continue;
    if ('()[]'.includes(part)) tokens.push({ text: part, is: 'sign', at });
    else {
      const value = jsonOf(part);
      tokens.push(value === undefined ? { text: part, is: 'word', at } : { text: part, value, is: 'value', at });
    }
    if (tokens.length > mostParts) throw new ScimError(fault, `the filter has more than ${mostParts} parts`);
  }
  return tokens;
}

/** A value as JSON writes it; undefined where it is none. */
function jsonOf(text: string): Value | undefined {
  if (!/^("|-?\d|true$|false$|null$)/.test(text)) return undefined;
  try {
    return JSON.parse(text) as Value;
  } catch {
    return undefined;
  }
}

class Parser {
  #at = 0;
  constructor(
    private readonly tokens: readonly Token[],
    private readonly fault: ScimFault,
  ) {}

  get next(): Token | undefined {
    return this.tokens[this.#at];
  }
  get ended(): boolean {
    return this.#at >= this.tokens.length;
  }

  fail(wanted: string): never {
    const { next } = this;
    throw new ScimError(
      this.fault,
      `expected ${wanted}, but ${next ? `there is “${next.text}” at character ${next.at + 1}` : 'it ends there'}`,
    );
  }
  take(sign: string): void {
    if (this.next?.text !== sign || this.next.is !== 'sign') this.fail(`“${sign}”`);
    this.#at++;
  }
  word(what: string): string {
    const token = this.next;
    if (token?.is !== 'word') this.fail(what);
    this.#at++;
    return token.text;
  }
  isWord(word: string): boolean {
    return this.next?.is === 'word' && this.next.text.toLowerCase() === word;
  }
  value(): Value {
    const token = this.next;
    if (token?.value === undefined) this.fail('a value: a text in quotes, a number, true, false or null');
    this.#at++;
    return token.value;
  }

  /** `or` binds least, then `and`, then `not` [RFC 7644 3.4.2.2]. */
  any(place: Place, depth: number): Filter {
    if (depth > deepest) throw new ScimError(this.fault, `the filter is nested deeper than ${deepest}`);
    let left = this.both(place, depth);
    while (this.isWord('or')) {
      this.#at++;
      left = { is: 'or', left, right: this.both(place, depth) };
    }
    return left;
  }
  private both(place: Place, depth: number): Filter {
    let left = this.one(place, depth);
    while (this.isWord('and')) {
      this.#at++;
      left = { is: 'and', left, right: this.one(place, depth) };
    }
    return left;
  }
  private one(place: Place, depth: number): Filter {
    const not = this.isWord('not') && this.tokens[this.#at + 1]?.text === '(';
    if (not) this.#at++;
    if (not || (this.next?.is === 'sign' && this.next.text === '(')) {
      this.take('(');
      const of = this.any(place, depth + 1);
      this.take(')');
      return not ? { is: 'not', of } : of;
    }
    const path = place.path(this.word('the name of an attribute'), this.fault);
    if (this.next?.text === '[' && this.next.is === 'sign') return this.values(path, place, depth);
    const by = this.word('an operator').toLowerCase();
    if (by === 'pr') return { is: 'present', path };
    if (!comparisons.includes(by)) throw new ScimError(this.fault, `“${by}” is no operator; there are ${comparisons.join(', ')} and pr`);
    const value = this.value();
    assertComparable(path, by as Comparison, value, this.fault);
    return { is: 'compared', path, by: by as Comparison, value };
  }
  /** Values of one attribute of which all that is asked is true of the same [RFC 7644 3.4.2.2, valuePath]. */
  values(path: AttributePath, place: Place, depth: number): Filter {
    if (place.inner || path.sub) this.fail('an operator');
    this.take('[');
    const of = this.any(innerOf(path.attribute), depth + 1);
    this.take(']');
    return { is: 'values', path, of };
  }
}

/** Where names are looked up: in a resource, or in one value of an attribute. */
interface Place {
  inner: boolean;
  path: (text: string, fault: ScimFault) => AttributePath;
}
const placeOf = (kind: ScimKind): Place => ({ inner: false, path: (text, fault) => pathOf(kind, text, fault) });
const innerOf = (attribute: ScimAttribute): Place => ({
  inner: true,
  path: (text, fault) => {
    const sub = attributeIn(attribute.subAttributes ?? [valueAttribute(attribute)], text);
    if (!sub) throw new ScimError(fault, `“${attribute.name}” has no part “${text}”`);
    return { extension: null, attribute: sub, sub: null };
  },
});
/** What has no parts is compared by itself, under this name. */
const valueAttribute = (attribute: ScimAttribute): ScimAttribute => ({ ...attribute, name: 'value', multiValued: false });

/** The attribute whose values are compared: of what has parts, its value [RFC 7644 3.4.2.2]. */
function comparedOf({ attribute, sub }: AttributePath): ScimAttribute {
  if (sub) return sub;
  return attribute.type === 'complex' ? (attributeIn(attribute.subAttributes, 'value') ?? attribute) : attribute;
}

function assertComparable(path: AttributePath, by: Comparison, value: Value, fault: ScimFault): void {
  const of = comparedOf(path);
  if (of.type === 'complex') throw new ScimError(fault, `“${of.name}” has parts: name one of them`);
  const ordered = ['gt', 'ge', 'lt', 'le'].includes(by);
  if (ordered && (of.type === 'boolean' || of.type === 'binary')) throw new ScimError(fault, `“${of.name}” has no order`);
  const wanted = of.type === 'boolean' ? 'boolean' : of.type === 'integer' || of.type === 'decimal' ? 'number' : 'string';
  if (value !== null && typeof value !== wanted) throw new ScimError(fault, `“${of.name}” is compared with a ${wanted}`);
  if (value === null && by !== 'eq' && by !== 'ne') throw new ScimError(fault, 'null is compared by eq and ne alone');
  if (of.type === 'dateTime' && typeof value === 'string' && Number.isNaN(Date.parse(value)))
    throw new ScimError(fault, `“${value}” is no time`);
}

/**
 * What a filter asks.
 * @throws ScimError `invalidFilter` with what is wrong and where
 * @source RFC 7644 3.4.2.2, figure 1
 */
export function parseFilter(kind: ScimKind, text: string, fault: ScimFault = 'invalidFilter'): Filter {
  if (text.length > longest) throw new ScimError(fault, `the filter is longer than ${longest} characters`);
  const parser = new Parser(tokensOf(text, fault), fault);
  const filter = parser.any(placeOf(kind), 0);
  if (!parser.ended) parser.fail('and, or, or the end');
  return filter;
}

/** What a path of a change names: an attribute, which of its values, and which part of them. */
export interface ChangePath extends AttributePath {
  of: Filter | null;
}

/**
 * The path of a change: an attribute, or values of it by a filter in square brackets, with a part of them behind a dot.
 * @source RFC 7644 3.5.2, figure 7
 */
export function parsePath(kind: ScimKind, text: string): ChangePath {
  const fault = 'invalidPath';
  const open = text.indexOf('[');
  if (open < 0) return { ...pathOf(kind, text.trim(), fault), of: null };
  if (text.length > longest) throw new ScimError(fault, `the path is longer than ${longest} characters`);
  const path = pathOf(kind, text.slice(0, open).trim(), fault);
  const close = text.lastIndexOf(']');
  const tail = text.slice(close + 1).trim();
  const parser = new Parser(tokensOf(text.slice(open, close + 1), fault), fault);
  const filter = parser.values(path, placeOf(kind), 0);
  if (!parser.ended || close < 0 || (tail !== '' && !tail.startsWith('.'))) parser.fail('the end, or a part behind a dot');
  const sub = tail === '' ? null : attributeIn(path.attribute.subAttributes, tail.slice(1));
  if (sub === undefined) throw new ScimError(fault, `“${path.attribute.name}” has no part “${tail.slice(1)}”`);
  return { ...path, sub, of: (filter as { of: Filter }).of };
}

const listOf = (value: unknown): readonly unknown[] =>
  value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];
/** Whether there is something [RFC 7644 3.4.2.2, pr]. */
const isThere = (value: unknown): boolean =>
  value !== '' &&
  (typeof value !== 'object' || value === null || Object.values(value).some((each) => each !== undefined && each !== null && each !== ''));

/** Values that a path leads to. */
function valuesAt(resource: object, path: AttributePath): readonly unknown[] {
  const values = listOf(valueAt(holderOf(resource, path), path.attribute.name));
  if (!path.sub) return values;
  return values.flatMap((value) => listOf(valueAt(value, (path.sub as ScimAttribute).name)));
}

function compare(of: ScimAttribute, by: Comparison, is: unknown, value: Value): boolean {
  if (typeof is === 'string' && typeof value === 'string') {
    if (of.type === 'dateTime' && !['co', 'sw', 'ew'].includes(by)) return ordered(by, Date.parse(is), Date.parse(value));
    const [a, b] = of.caseExact ? [is, value] : [is.toLowerCase(), value.toLowerCase()];
    if (by === 'co') return a.includes(b);
    if (by === 'sw') return a.startsWith(b);
    if (by === 'ew') return a.endsWith(b);
    return ordered(by, a, b);
  }
  if (typeof is !== typeof value || (typeof is !== 'number' && typeof is !== 'boolean')) return false;
  return ordered(by, is as number, value as number);
}
function ordered<T extends string | number>(by: Comparison, a: T, b: T): boolean {
  if (by === 'eq') return a === b;
  if (by === 'gt') return a > b;
  if (by === 'ge') return a >= b;
  if (by === 'lt') return a < b;
  return by === 'le' && a <= b;
}

/**
 * Whether a resource is what a filter asks for. Of several values one is enough; `ne` asks that none is.
 * @source RFC 7644 3.4.2.2
 */
export function matches(filter: Filter, resource: object): boolean {
  switch (filter.is) {
    case 'and':
      return matches(filter.left, resource) && matches(filter.right, resource);
    case 'or':
      return matches(filter.left, resource) || matches(filter.right, resource);
    case 'not':
      return !matches(filter.of, resource);
    case 'present':
      return valuesAt(resource, filter.path).some(isThere);
    case 'values':
      return valuesAt(resource, filter.path).some((value) => matchesValue(filter.of, value));
    case 'compared': {
      const { path, by, value } = filter;
      const of = comparedOf(path);
      const values = valuesAt(resource, path).flatMap((each) =>
        !path.sub && path.attribute.type === 'complex' ? listOf(valueAt(each, of.name)) : [each],
      );
      if (value === null) return (by === 'eq') === !values.some(isThere);
      if (by === 'ne') return !values.some((each) => compare(of, 'eq', each, value));
      return values.some((each) => compare(of, by, each, value));
    }
  }
}

/** The same of one value of an attribute; what has no parts is its own value. */
export const matchesValue = (filter: Filter, value: unknown): boolean =>
  matches(filter, typeof value === 'object' && value !== null ? value : { value });
