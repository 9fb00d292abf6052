import type { SettingValue } from '@underpass/contracts';
import { catalogue, explainSetting, obeys, settingKeys, subjectIn, type HiddenBecause } from '@underpass/core';
import { CommandError } from './commandError.js';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

const reasons: Record<HiddenBecause, string> = {
  'a nearer layer is set': 'nearer',
  'a layer above is locked': 'lock',
  'a stricter value counts': 'stricter',
  'its condition does not hold': 'condition',
  'the value is not valid': 'condition',
};

/** The settings in force for a person at an endpoint: of each its value, where it comes from, what it hides, and whether the client follows it. */
export function settings(options: Options): object {
  const [folder = ''] = options.positional;
  const { model } = modelFrom(folder);
  const id = options.text('endpoint');
  if (id === undefined) throw new CommandError('--endpoint: is missing');
  const endpoint = model.endpoints.get(id);
  if (!endpoint) throw new CommandError(`--endpoint: no endpoint has the id “${id}”`);
  const [person, resource] = [options.text('person') ?? endpoint.person, options.text('resource')];
  if (person !== undefined && !model.people.has(person)) throw new CommandError(`--person: no person has the id “${person}”`);
  if (resource !== undefined && !model.resources.has(resource)) throw new CommandError(`--resource: no resource has the id “${resource}”`);
  const subject = subjectIn(model, endpoint.id, person);
  if (!subject) throw new CommandError(`--endpoint: the location of ${id} is not in the estate`);
  return {
    settings: settingKeys.map((key) => {
      const { value, deciding, hidden, rule } = explainSetting(model.settings, key, subject);
      const definition = catalogue[key];
      return {
        key,
        value,
        unit: 'unit' in definition ? definition.unit : null,
        layer: deciding?.layer ?? 'default',
        rule,
        hidden: hidden.map(({ entry, because }): { layer: string; value: SettingValue; reason: string } => ({
          layer: entry.layer,
          value: entry.value,
          reason: reasons[because],
        })),
        obeyed: obeys(key, endpoint),
      };
    }),
  };
}
