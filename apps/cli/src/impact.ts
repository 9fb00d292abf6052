import { Layer, type Estate, type ObjectKind, type SettingValue } from '@underpass/contracts';
import { definitionOf, doing, FactsReader, faultOfValue, settingTo, verdictImpact, type SettingKey } from '@underpass/core';
import { CommandError } from './commandError.js';
import { modelFrom } from './folder.js';
import type { Options } from './options.js';

const yes = ['yes', 'true', 'on'];
const no = ['no', 'false', 'off'];

/** A value as it is typed, read as its setting takes it. */
function valueOf(key: string, text: string): SettingValue {
  const definition = definitionOf(key);
  if (!definition) throw new CommandError(`--set: there is no setting “${key}”`);
  const read = (): SettingValue | undefined => {
    if (definition.type === 'number') return text.trim() === '' ? undefined : Number(text);
    if (definition.type === 'list') return text === '' ? [] : text.split(',').map((part) => part.trim());
    if (definition.type !== 'switch') return text;
    return yes.includes(text) ? true : no.includes(text) ? false : undefined;
  };
  const value = read();
  const fault = value === undefined ? `“${text}” is no value of it` : faultOfValue(key, value);
  if (value === undefined || fault !== null) throw new CommandError(`--set: ${key}: ${fault}`);
  return value;
}

const kinds: Partial<Record<Layer, ObjectKind>> = { location: 'location', group: 'group', person: 'person', endpoint: 'endpoint' };

/** A layer with what it is for. @example location:hall */
function placeOf(text: string, estate: Estate): { layer: Layer; target: string } {
  const at = text.indexOf(':');
  const word = (at < 0 ? text : text.slice(0, at)).replace('-', ' ');
  const layer = Layer.options.find((each) => each === word);
  if (!layer) throw new CommandError(`--layer: “${word}” is not one of ${Layer.options.join(', ')}`);
  const target = at < 0 ? '' : text.slice(at + 1);
  if (layer === 'organisation') {
    if (target !== '' && target !== '*') throw new CommandError('--layer: the organisation is one: leave out what it is for');
    return { layer, target: '*' };
  }
  if (target === '') throw new CommandError(`--layer: say which ${layer}, such as ${layer.replace(' ', '-')}:ID`);
  const kind = kinds[layer];
  const there = kind ? estate[kind].some(({ id }) => id === target) : estate.endpoint.some(({ deviceClass }) => deviceClass === target);
  if (!there) throw new CommandError(`--layer: no ${layer} has the id “${target}”`);
  return { layer, target };
}

/** What one setting at one layer would do to every crossing of an estate. */
export function impact(options: Options, nowMs: number): object {
  const [folder = ''] = options.positional;
  const { estate, model } = modelFrom(folder);
  const [set, layerText] = [options.text('set'), options.text('layer')];
  const [, key = '', text = ''] = /^([^=]+)=([\s\S]*)$/.exec(set ?? '') ?? [];
  if (key === '') throw new CommandError(set === undefined ? '--set: is missing' : `--set: “${set}” is not KEY=VALUE`);
  if (layerText === undefined) throw new CommandError('--layer: is missing');
  const value = valueOf(key, text);
  const { layer, target } = placeOf(layerText, estate);
  const reader = new FactsReader(model, nowMs);
  return verdictImpact(reader, doing(settingTo(key as SettingKey, layer, target, value)));
}
