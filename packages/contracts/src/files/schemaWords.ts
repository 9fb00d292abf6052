import { folderFiles, type ObjectKind } from '../estate/estate.js';
import { jsonSchemas } from './jsonSchema.js';

/** A word that may stand in a text of a schema: a field, or one of the values it takes. */
export interface SchemaWord {
  word: string;
  says: string;
  type: 'field' | 'value';
}

/** The words of a kind's schema, each once, for whoever writes its text. */
export function schemaWords(kind: ObjectKind): SchemaWord[] {
  const words = new Map<string, SchemaWord>();
  const seen = new Set<unknown>();
  const look = (node: unknown): void => {
    if (node === null || typeof node !== 'object' || seen.has(node)) return;
    seen.add(node);
    const { properties, enum: values, description } = node as { properties?: object; enum?: unknown[]; description?: string };
    for (const [word, inner] of Object.entries(properties ?? {})) {
      const says = (inner as { description?: string }).description ?? '';
      if (!words.has(word)) words.set(word, { word, says, type: 'field' });
    }
    for (const value of values ?? [])
      if (typeof value === 'string' && !words.has(value)) words.set(value, { word: value, says: description ?? '', type: 'value' });
    Object.values(node).forEach(look);
  };
  look(jsonSchemas()[folderFiles[kind]]);
  return [...words.values()];
}
