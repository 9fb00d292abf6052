import { LineCounter, parseDocument, stringify } from 'yaml';
import type { z } from 'zod';
import { faultOfTexts } from './fitText.js';
import type { FileProblem } from './problem.js';
import type { Placed } from './table.js';
import { plainMessage } from './wording.js';

/** Reads a YAML list of objects. Problems carry the line of the field that is wrong. */
export function readDocument<S extends z.ZodType>(file: string, text: string, schema: S, problems: FileProblem[]): Placed<z.infer<S>>[] {
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines, maxAliasCount: 50 } as never);
  const lineAt = (path: readonly PropertyKey[]): number => {
    for (let depth = path.length; depth > 0; depth--) {
      const node = document.getIn(path.slice(0, depth) as string[], true) as { range?: [number, number, number] } | undefined;
      if (node?.range) return lines.linePos(node.range[0]).line;
    }
    return 1;
  };
  for (const error of document.errors)
    problems.push({
      file,
      line: error.linePos?.[0].line ?? 1,
      field: '',
      problem: (error.message.split('\n')[0] ?? '').replace(/ at line .*/, ''),
      expected: 'valid YAML',
    });
  if (document.errors.length) return [];
  let content: unknown;
  try {
    content = document.toJS();
  } catch {
    problems.push({ file, line: 1, field: '', problem: 'has too many aliases', expected: 'a plain list' });
    return [];
  }
  if (content === null || content === undefined) return [];
  if (!Array.isArray(content)) {
    problems.push({ file, line: 1, field: '', problem: 'is not a list', expected: 'a list of objects, each starting with "- id:"' });
    return [];
  }
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
    for (const issue of result.error.issues)
      problems.push({
        file,
        line: lineAt([i, ...issue.path]),
        field: issue.path.map(String).join('.'),
        problem: plainMessage(issue.message),
        expected: 'see the file description',
      });
  });
  return found;
}

export const writeDocument = (objects: readonly unknown[]): string => (objects.length ? stringify(objects, { lineWidth: 140 }) : '[]\n');
