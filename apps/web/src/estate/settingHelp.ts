import { DeviceClass, type Field, type ObjectKind } from '@underpass/contracts';
import { catalogue, type SettingDefinition } from '@underpass/core';

export interface FieldHelp {
  /** What may be typed, with its meaning. */
  suggestions: readonly { value: string; text: string }[];
  hint: string;
}
const definitions: Readonly<Record<string, SettingDefinition>> = catalogue;
const keys = Object.entries(definitions).map(([value, { label }]) => ({ value, text: label }));
const plain = (values: readonly string[]) => values.map((value) => ({ value, text: '' }));

function valuesOf(definition: SettingDefinition): FieldHelp {
  switch (definition.type) {
    case 'switch':
      return { suggestions: plain(['yes', 'no']), hint: 'yes or no' };
    case 'choice':
      return { suggestions: plain(definition.options), hint: `one of ${definition.options.join(', ')}` };
    case 'number':
      return {
        suggestions: plain((definition.steps ?? []).map(String)),
        hint: `${definition.min} to ${definition.max} ${definition.unit}`,
      };
    case 'text':
      return { suggestions: plain(definition.words.map((word) => `{${word}}`)), hint: definition.does };
    case 'version':
      return { suggestions: [], hint: 'a version such as 4.12' };
    case 'list':
      return { suggestions: plain(definition.options), hint: `some of ${definition.options.join('; ')}, separated by ;` };
  }
}

/** What the catalogue knows of a field of a setting, while its key is being typed; null for other fields. */
export function settingHelp(field: string, key: string): FieldHelp | null {
  const definition = Object.hasOwn(definitions, key) ? definitions[key] : undefined;
  if (field === 'key') return { suggestions: keys, hint: definition?.does ?? 'a key of the catalogue, such as picture.frameCap' };
  return field === 'value' && definition ? valuesOf(definition) : null;
}

/** A typed value as its setting takes it: “1.2” is a word where words are to choose from, and one word is a list of one. */
export function settingValue(key: string, text: string, read: unknown): unknown {
  const type = Object.hasOwn(definitions, key) ? definitions[key]?.type : undefined;
  if (type === 'choice' || type === 'version' || type === 'text') return text;
  return type === 'list' && !Array.isArray(read) ? [text] : read;
}

/** The value of a setting as its key takes it, read of what its form holds. */
export const finishSetting = (object: Record<string, unknown>, form: object): object => {
  const { key, value } = form as { key?: unknown; value?: unknown };
  if (object.value === undefined || typeof value !== 'string') return object;
  return { ...object, value: settingValue(String(key), value.trim(), object.value) };
};

/** What a setting's target names, by its layer. */
const targets: Readonly<Record<string, ObjectKind>> = { location: 'location', group: 'group', person: 'person', endpoint: 'endpoint' };

/** A field of a setting's form, which hangs on what stands in the others. */
export function fieldOfSetting(field: Field, form: Readonly<Record<string, unknown>>): Field {
  if (field.name !== 'target') return field;
  const layer = String(form.layer);
  const kind = targets[layer];
  if (kind) return { ...field, type: 'named', kind };
  if (layer === 'device class') return { ...field, type: 'word', words: DeviceClass.options };
  return layer === 'organisation' ? { ...field, type: 'word', words: ['*'] } : field;
}
