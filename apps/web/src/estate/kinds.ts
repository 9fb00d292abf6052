import type { ObjectKind } from '@underpass/contracts';

export const nameOf = (kind: ObjectKind, object: Record<string, unknown>): string =>
  String(kind === 'setting' ? object.key : (object.name ?? object.id));
export const cellOf = (value: unknown): string =>
  value === undefined || value === null
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : typeof value === 'object'
          ? JSON.stringify(value)
          : String(value as string | number);
