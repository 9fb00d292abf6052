/** The value at a path of an object; dots go into nested objects. */
export const fieldAt = (object: object | null, path: string): unknown =>
  path.split('.').reduce<unknown>((inner, part) => (inner as Record<string, unknown> | null | undefined)?.[part], object);

function setAt(object: object, [key, ...rest]: readonly string[], value: unknown): object {
  if (key === undefined) return object;
  const inner = (object as Record<string, unknown>)[key];
  if (rest.length) {
    const plain = typeof inner === 'object' && inner !== null && !Array.isArray(inner) ? inner : {};
    return { ...object, [key]: setAt(plain, rest, value) };
  }
  if (value !== null && value !== undefined) return { ...object, [key]: value };
  const { [key]: _gone, ...others } = object as Record<string, unknown>;
  return others;
}

/** An object with one field replaced, or without it where the value is null; the given one stays as it is. */
export const withField = <T extends object>(object: T, path: string, value: unknown): T => setAt(object, path.split('.'), value) as T;
