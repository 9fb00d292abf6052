import { CellError, type Column } from '@underpass/contracts';

/** The part of an object a column stands for. */
export const at = (value: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((v, key) => (v as Record<string, unknown> | undefined)?.[key], value);

/** The object that the texts of a form come to, and what cannot be read of them. */
export function assemble(
  columns: readonly Column[],
  texts: Record<string, string>,
): { object: Record<string, unknown>; faults: Record<string, string> } {
  const object: Record<string, unknown> = {};
  const faults: Record<string, string> = {};
  for (const column of columns) {
    const text = texts[column.name]?.trim() ?? '';
    if (text === '') continue;
    try {
      let target = object;
      for (const key of column.path.slice(0, -1)) target = (target[key] ??= {}) as Record<string, unknown>;
      target[column.path.at(-1) as string] = column.read(text);
    } catch (error) {
      if (!(error instanceof CellError)) throw error;
      faults[column.name] = `${error.message}. Give ${column.expected}.`;
    }
  }
  return { object, faults };
}
