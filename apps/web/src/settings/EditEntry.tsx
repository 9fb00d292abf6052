import type { Layer, Setting, SettingValue } from '@underpass/contracts';
import { definitionOf, faultOfValue, type SettingKey } from '@underpass/core';
import { useState } from 'react';
import { Strip } from '../ui/Strip.js';
import { layerWords } from './strata.js';
import { valueText } from './valueWords.js';

const unset = 'not set';

/** Writes one entry of a setting at one layer into the draft: its value, and whether it is locked. */
export function EditEntry({
  settingKey,
  layer,
  target,
  entry,
  busy,
  onWrite,
}: {
  settingKey: SettingKey;
  layer: Layer;
  target: string;
  /** What stands there now with the draft, without a condition. */
  entry: Setting | undefined;
  busy: boolean;
  onWrite: (wanted: { value: SettingValue; locked: boolean } | null) => void;
}) {
  const definition = definitionOf(settingKey);
  const [typed, setTyped] = useState<string | null>(null);
  if (!definition || target === '') return <p className="text-ink-2">There is nobody at this layer here.</p>;
  const locked = entry?.locked ?? false;
  const write = (value: SettingValue) => onWrite({ value, locked });
  const where = `${layerWords[layer]}${target === '*' ? '' : ` ${target}`}`;
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-2 items-center" data-busy={busy || undefined}>
      <span className="text-ink-3 min-w-[76px]">{where}</span>
      <Value
        key={`${settingKey}${layer}${target}`}
        settingKey={settingKey}
        entry={entry}
        disabled={busy}
        typed={typed}
        onTyped={setTyped}
        onWrite={write}
        onUnset={() => onWrite(null)}
      />
      <label className="inline-flex gap-2 items-center min-h-[24px]">
        <input
          type="checkbox"
          checked={locked}
          disabled={busy || !entry}
          onChange={({ target: box }) => entry && onWrite({ value: entry.value, locked: box.checked })}
        />
        locked for the layers above
      </label>
    </div>
  );
}

function Value({
  settingKey,
  entry,
  disabled,
  typed,
  onTyped,
  onWrite,
  onUnset,
}: {
  settingKey: SettingKey;
  entry: Setting | undefined;
  disabled: boolean;
  typed: string | null;
  onTyped: (text: string | null) => void;
  onWrite: (value: SettingValue) => void;
  onUnset: () => void;
}) {
  const definition = definitionOf(settingKey);
  if (!definition) return null;
  if (definition.type === 'switch' || (definition.type === 'choice' && definition.options.length <= 4)) {
    const options = definition.type === 'switch' ? ['on', 'off'] : definition.options;
    const value = entry === undefined ? unset : definition.type === 'switch' ? (entry.value === true ? 'on' : 'off') : String(entry.value);
    return (
      <Strip
        label={`${definition.label} at this layer`}
        options={[unset, ...options]}
        value={value}
        disabled={disabled}
        onChange={(next) => (next === unset ? onUnset() : onWrite(definition.type === 'switch' ? next === 'on' : next))}
      />
    );
  }
  if (definition.type === 'choice')
    return (
      <select
        className="field"
        aria-label={`${definition.label} at this layer`}
        disabled={disabled}
        value={entry === undefined ? unset : String(entry.value)}
        onChange={({ target }) => (target.value === unset ? onUnset() : onWrite(target.value))}
      >
        {[unset, ...definition.options].map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
    );
  if (definition.type === 'list') {
    const items = (entry?.value ?? []) as readonly string[];
    return (
      <fieldset className="flex flex-wrap gap-x-3" disabled={disabled}>
        <legend className="sr-only">{definition.label} at this layer</legend>
        {definition.options.map((option) => {
          const state = items.includes(option) ? 'adds' : items.includes(`-${option}`) ? 'removes' : '–';
          return (
            <label key={option} className="inline-flex items-center gap-1">
              {option}
              <select
                className="field h-[26px] px-1"
                value={state}
                onChange={({ target }) => {
                  const rest = items.filter((item) => item !== option && item !== `-${option}`);
                  const next = target.value === 'adds' ? [...rest, option] : target.value === 'removes' ? [...rest, `-${option}`] : rest;
                  if (next.length === 0) onUnset();
                  else onWrite([...next]);
                }}
              >
                {['–', 'adds', 'removes'].map((word) => (
                  <option key={word}>{word}</option>
                ))}
              </select>
            </label>
          );
        })}
      </fieldset>
    );
  }
  const text = typed ?? (entry === undefined ? '' : String(entry.value));
  const read: SettingValue = definition.type === 'number' ? (text.trim() === '' ? NaN : Number(text)) : text;
  const fault = typed === null || typed === '' ? null : faultOfValue(settingKey, read);
  return (
    <form
      className="inline-flex flex-wrap gap-2 items-center"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() === '' && definition.type !== 'text') onUnset();
        else if (!faultOfValue(settingKey, read)) onWrite(read);
        else return;
        onTyped(null);
      }}
    >
      {definition.type === 'number' && definition.steps && (
        <Strip
          label={`${definition.label} at this layer`}
          options={[unset, ...definition.steps.map(String)]}
          value={entry === undefined ? unset : String(entry.value)}
          disabled={disabled}
          words={{ [unset]: unset }}
          onChange={(next) => (next === unset ? onUnset() : onWrite(Number(next)))}
        />
      )}
      <label className="inline-flex gap-2 items-center">
        <span className="sr-only">{definition.label}, typed</span>
        <input
          className={`field ${definition.type === 'number' ? 'w-[84px]' : 'w-[200px]'}`}
          inputMode={definition.type === 'number' ? 'decimal' : 'text'}
          autoComplete="off"
          value={text}
          disabled={disabled}
          aria-invalid={fault !== null}
          aria-describedby="entry-fault"
          onChange={({ target }) => onTyped(target.value)}
        />
        {definition.type === 'number' && <span className="text-ink-3">{definition.unit}</span>}
      </label>
      {typed !== null && !fault && (
        <button className="btn btn-small" disabled={disabled}>
          Put into the draft
        </button>
      )}
      <span id="entry-fault" role="alert" className="text-brick">
        {fault && `${valueText(settingKey, typed ?? '')} ${fault.startsWith('must') ? `does not fit: it ${fault}` : fault}`}
      </span>
    </form>
  );
}
