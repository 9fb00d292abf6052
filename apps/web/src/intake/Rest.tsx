import { intakeTarget, kindWords, standIns, type ObjectKind, type TableMap } from '@underpass/contracts';
import type { IntakeField } from '@underpass/core';
import { useState } from 'react';
import { labelOf } from '../ui/form/labels.js';
import { Pick } from '../ui/Pick.js';
import { fieldsOfMap, openFields, withConstant } from './mapping.js';

/** What no column says: fields that are the same for all rows, by what a row is told, and names that are not there yet. */
export function Rest({ map, onChange }: { map: TableMap; onChange: (map: TableMap) => void }) {
  const open = openFields(map);
  const fields = fieldsOfMap(map);
  const filled = new Set([...map.columns.map(({ to }) => to), ...Object.keys(map.constants)]);
  const keys = fields.filter(({ name, type, kind }) => type === 'text' && !kind && (name === 'id' || name === 'name' || filled.has(name)));
  return (
    <section aria-labelledby="rest" className="mt-5">
      <h2 id="rest">The same for all rows</h2>
      <p className="text-ink-2">
        {open.length === 0
          ? 'Every field that is needed is filled. What you add here fills only what is not known.'
          : open.every(({ name }) => standIns[map.kind]?.[name] !== undefined)
            ? `No column says ${open.map(({ name }) => labelOf(name).toLowerCase()).join(', ')}. Say it here, or leave it: what is not said is taken to be so until somebody says it, and verdicts that hang on it are Unknown.`
            : `No column says ${open.map(({ name }) => labelOf(name).toLowerCase()).join(', ')}. Say it here; of what is there already it fills only what is not known.`}
      </p>
      <div className="mt-2 grid grid-cols-[minmax(120px,auto)_1fr] gap-x-4 gap-y-2 items-center max-w-[620px]">
        {[...open, ...fields.filter(({ name }) => Object.hasOwn(map.constants, name))].map((field) => (
          <Constant
            key={field.name}
            field={field}
            text={map.constants[field.name] ?? ''}
            onChange={(text) => onChange(withConstant(map, field.name, text))}
          />
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2 items-center">
        <label className="flex gap-2 items-center">
          Add a field
          <select className="field" value="" onChange={({ target }) => target.value && onChange(withConstant(map, target.value, ' '))}>
            <option value="">Choose</option>
            {fields
              .filter(
                ({ name, type }) => type !== 'structured' && name !== 'id' && !filled.has(name) && !open.some((each) => each.name === name),
              )
              .map(({ name }) => (
                <option key={name} value={name}>
                  {labelOf(name)}
                </option>
              ))}
          </select>
        </label>
        <label className="flex gap-2 items-center">
          A row is found again by its
          <select className="field" value={map.key} onChange={({ target }) => onChange({ ...map, key: target.value })}>
            {keys.map(({ name }) => (
              <option key={name} value={name}>
                {labelOf(name)}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Make map={map} onChange={onChange} />
    </section>
  );
}

function Constant({ field, text, onChange }: { field: IntakeField; text: string; onChange: (text: string) => void }) {
  const label = labelOf(field.name);
  const words = field.type === 'boolean' ? ['yes', 'no'] : field.options;
  // what was picked is named at once; what came with a mapping is shown by its id
  const [name, setName] = useState<string | null>(null);
  const shown = text.trim();
  return (
    <>
      <span>{label}</span>
      {field.kind && field.type !== 'list' ? (
        <Pick
          kind={field.kind}
          label={label}
          value={shown ? { id: shown, name: name ?? shown } : null}
          onPick={(picked) => {
            setName(picked?.name ?? null);
            onChange(picked?.id ?? '');
          }}
        />
      ) : words.length && field.type !== 'list' ? (
        <select className="field w-[220px]" aria-label={label} value={shown} onChange={({ target }) => onChange(target.value)}>
          <option value="">Not said</option>
          {words.map((word) => (
            <option key={word}>{word}</option>
          ))}
        </select>
      ) : (
        <input
          className="field w-[280px]"
          aria-label={label}
          title={field.expected}
          value={shown}
          onChange={({ target }) => onChange(target.value || '')}
        />
      )}
    </>
  );
}

/** Kinds of which something is made where a name is not there yet, with what all that are made have in common. */
function Make({ map, onChange }: { map: TableMap; onChange: (map: TableMap) => void }) {
  const kinds = [
    ...new Set(fieldsOfMap(map).flatMap(({ name, kind }) => (kind && map.columns.some(({ to }) => to === name) ? [kind] : []))),
  ];
  const put = (kind: ObjectKind, common: Record<string, string> | null) => {
    const make = { ...map.make };
    if (common) make[kind] = common;
    else delete make[kind];
    onChange({ ...map, make });
  };
  return (
    <div className="mt-3">
      {kinds.map((kind) => {
        const common = map.make[kind];
        const needed = intakeTarget(kind, () => []).fields.filter(
          ({ required, name }) => required && name !== 'id' && name !== 'name' && !name.includes('.'),
        );
        return (
          <div key={kind} className="mt-1">
            <label className="flex gap-2 items-center">
              <input type="checkbox" checked={common !== undefined} onChange={({ target }) => put(kind, target.checked ? {} : null)} />
              Make {kindWords[kind].many.toLowerCase()} that are not there yet
            </label>
            {common && needed.length > 0 && (
              <div className="mt-1 ml-6 grid grid-cols-[minmax(120px,auto)_1fr] gap-x-4 gap-y-2 items-center max-w-[600px]">
                {needed.map((field) => (
                  <Constant
                    key={field.name}
                    field={field}
                    text={common[field.name] ?? ''}
                    onChange={(text) => {
                      const next = { ...common };
                      if (text === '') delete next[field.name];
                      else next[field.name] = text;
                      put(kind, next);
                    }}
                  />
                ))}
              </div>
            )}
          </div>
        );
      })}
    </div>
  );
}
