import type { ObjectKind } from '@underpass/contracts';
import { catalogue } from '@underpass/core';

const definitions: Readonly<Record<string, { label: string }>> = catalogue;
/** A setting in words; its key where the catalogue does not know it. */
const labelOfSetting = (key: string): string => (Object.hasOwn(definitions, key) ? (definitions[key]?.label ?? key) : key);

export const nameOf = (kind: ObjectKind, object: Record<string, unknown>): string =>
  kind === 'setting' ? labelOfSetting(String(object.key)) : String((object.name as string | undefined) ?? object.id);
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
