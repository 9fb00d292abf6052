import { references, type ObjectKind } from './estate.js';
import type { ConfigFile } from './bringup.js';
import type { Setting } from './setting.js';

/** Layers whose target is an object of the estate. */
const targets: Partial<Record<Setting['layer'], ObjectKind>> = {
  location: 'location',
  group: 'group',
  person: 'person',
  endpoint: 'endpoint',
};

/** Names of other objects in a value, with the field they stand in. */
export function referencesOf(kind: ObjectKind, value: object): { field: string; to: ObjectKind; id: string }[] {
  if (kind === 'setting' || kind === 'configFile') {
    const { layer, target } = value as Setting | ConfigFile;
    const to = targets[layer];
    return to ? [{ field: 'target', to, id: target }] : [];
  }
  return Object.entries(references[kind] ?? {}).flatMap(([field, to]) => {
    const content = field.split('.').reduce<unknown>((inner, part) => (inner as Record<string, unknown> | undefined)?.[part], value);
    const ids = Array.isArray(content) ? content : content === undefined ? [] : [content];
    return ids.map((id) => ({ field, to, id: String(id) }));
  });
}
