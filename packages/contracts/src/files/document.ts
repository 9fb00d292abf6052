import { isAlias, isMap, isNode, isScalar, isSeq, LineCounter, parseDocument, stringify, visit, type Document } from 'yaml';
import type { z } from 'zod';
import { fieldsAsWritten } from '../estate/shownAs.js';
import { faultsOfError } from './faults.js';
import { faultOfTexts } from './fitText.js';
import type { FileProblem } from './problem.js';
import type { Placed } from './table.js';

/** The deepest a document may be nested; the reader goes down once for each level. */
const deepest = 100;
/** A document takes some fifty times its size while it is read. */
const largest = 8_000_000;

/** Where things stand in a document, found in the same time whatever its width. */
class Places {
  private readonly known = new WeakMap<object, Map<string, unknown>>();
  constructor(
    private readonly document: Document,
    private readonly lines: LineCounter,
  ) {}

  private inside(node: unknown, key: string): unknown {
    if (isSeq(node)) return node.items[Number(key)];
    if (!isMap(node)) return undefined;
    let byKey = this.known.get(node);
    if (!byKey) {
      byKey = new Map(node.items.map((pair) => [String(isScalar(pair.key) ? pair.key.value : pair.key), pair.value ?? pair.key]));
      this.known.set(node, byKey);
    }
    return byKey.get(key);
  }

  /** The line of the deepest part of the path that is written. */
  line(path: readonly PropertyKey[]): number {
    let node: unknown = this.document.contents;
    let line = 1;
    for (const key of path) {
      node = this.inside(node, String(key));
      if (node === undefined || node === null) break;
      const { range } = node as { range?: [number, number, number] };
      if (range) line = this.lines.linePos(range[0]).line;
    }
    return line;
  }
}

/** What a plain document must not have: aliases, which can grow without end, and keys that stand twice. */
function faultOfForm(document: Document, lines: LineCounter): { line: number; problem: string; expected: string } | null {
  let fault: { line: number; problem: string; expected: string } | null = null;
  const tell = (node: unknown, problem: string, expected: string) => {
    const { range } = (node ?? {}) as { range?: [number, number, number] };
    fault = { line: range ? lines.linePos(range[0]).line : 1, problem, expected };
    return visit.BREAK;
  };
  visit(document, (_key, node, path) => {
    if (isAlias(node) || (isNode(node) && 'anchor' in node && node.anchor))
      return tell(node, 'has an anchor or an alias', 'everything written out');
    if (path.length > 2 * deepest) return tell(node, `is nested more than ${deepest} deep`, 'a plain list of objects');
    if (!isMap(node)) return undefined;
    const seen = new Set<string>();
    for (const { key: name } of node.items) {
      if (isNode(name) && !isScalar(name)) return tell(name, 'has a list or an object in place of a field’s name', 'a plain name');
      const key = String(isScalar(name) ? name.value : name);
      if (seen.has(key)) return tell(name, `has the field “${key.slice(0, 60)}” twice`, 'each field once');
      seen.add(key);
    }
    return undefined;
  });
  return fault;
}

/** Numbers that stand where a text is meant become the text that is written: a bare 0123 is no hundred and twenty-three. */
function keepWritten(document: Document, fields: ReadonlySet<string>): void {
  if (fields.size === 0) return;
  visit(document, {
    Pair: (_key, { key, value }) => {
      if (!isScalar(key) || !fields.has(String(key.value))) return;
      for (const node of isSeq(value) ? value.items : [value])
        if (isScalar(node) && typeof node.value === 'number' && typeof node.source === 'string') node.value = node.source;
    },
  });
}

/** Reads a YAML list of objects. Problems carry the line of the field that is wrong. */
export function readDocument<S extends z.ZodType>(file: string, text: string, schema: S, problems: FileProblem[]): Placed<z.infer<S>>[] {
  const lines = new LineCounter();
  const refuse = (line: number, problem: string, expected: string) => {
    problems.push({ file, line, field: '', problem, expected });
    return [];
  };
  if (text.length > largest) return refuse(1, `is larger than ${largest / 1_000_000} MB`, 'a smaller file; large kinds are tables');
  let document: Document;
  let content: unknown;
  try {
    // a key that stands twice is looked for below: the parser's own search takes the square of their number
    document = parseDocument(text, { lineCounter: lines, uniqueKeys: false }) as Document;
    if (document.errors.some(({ message }) => message.includes('call stack')))
      return refuse(1, 'is nested too deep', 'a plain list of objects');
    for (const error of document.errors.slice(0, 100))
      problems.push({
        file,
        line: error.linePos?.[0].line ?? 1,
        field: '',
        problem: (error.message.split('\n')[0] ?? '').replace(/ at line .*/, ''),
        expected: 'valid YAML',
      });
    if (document.errors.length) return [];
    const fault = faultOfForm(document, lines);
    if (fault) return refuse(fault.line, fault.problem, fault.expected);
    keepWritten(document, fieldsAsWritten(schema));
    content = document.toJS({ maxAliasCount: 0 });
  } catch (error) {
    // the one way left to fail: the stack is used up by what is nested too deep
    if (!(error instanceof RangeError)) throw error;
    return refuse(1, 'is nested too deep', 'a plain list of objects');
  }
  const places = new Places(document, lines);
  const lineAt = (path: readonly PropertyKey[]) => places.line(path);
  if (content === null || content === undefined) return [];
  if (!Array.isArray(content)) return refuse(1, 'is not a list', 'a list of objects, each starting with "- id:"');
  const found: Placed<z.infer<S>>[] = [];
  content.forEach((item, i) => {
    const unfit = faultOfTexts(item);
    if (unfit)
      return problems.push({
        file,
        line: lineAt([i, ...unfit.path]),
        field: unfit.path.join('.'),
        problem: unfit.message,
        expected: 'text of characters that can be shown',
      });
    const result = schema.safeParse(item);
    if (result.success)
      return found.push({ value: result.data, file, line: lineAt([i]), lineAt: (field) => lineAt([i, ...field.split('.')]) });
    for (const { path, problem } of faultsOfError(result.error))
      problems.push({ file, line: lineAt([i, ...path]), field: path.join('.'), problem, expected: 'see the file description' });
  });
  return found;
}

export const writeDocument = (objects: readonly unknown[]): string =>
  objects.length ? stringify(objects, { lineWidth: 140, aliasDuplicateObjects: false }) : '[]\n';
