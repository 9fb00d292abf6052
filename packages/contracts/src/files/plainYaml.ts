import { parseDocument, stringify } from 'yaml';

/** A document as plain data: no aliases, which can grow without end, and no key twice. @throws with what is wrong and the line */
export function readYaml(text: string): unknown {
  const document = parseDocument(text, { uniqueKeys: true });
  const [error] = document.errors;
  if (error) throw new Error((error.message.split('\n')[0] ?? '').replace(/:$/, ''));
  return document.toJS({ maxAliasCount: 0 }) as unknown;
}

/** Plain data as a document. */
export const writeYaml = (value: unknown): string => stringify(value, { lineWidth: 0, aliasDuplicateObjects: false });
