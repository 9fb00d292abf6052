import type { Setting } from '@underpass/contracts';
import { catalogue, explainSetting, indexSettings, type SettingKey, type SettingSubject } from '@underpass/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { bySubject, settingsFor, subjectWords, valueText } from './valueWords.js';

/** The catalogue by subject, with what is in force for whom is looked at; found by name, key, or what people complain of. */
export function Catalogue({
  chosen,
  onChoose,
  entries,
  subject,
}: {
  chosen: SettingKey;
  onChoose: (key: SettingKey) => void;
  entries: readonly Setting[];
  subject: SettingSubject | null;
}) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState<ReadonlySet<string>>(() => new Set([chosen.slice(0, chosen.indexOf('.'))]));
  const wanted = useDeferredValue(text);
  const groups = useMemo(() => bySubject(settingsFor(wanted)), [wanted]);
  const values = useMemo(() => {
    if (!subject) return null;
    const index = indexSettings(entries);
    return (key: SettingKey) => explainSetting(index, key, subject);
  }, [entries, subject]);
  const all = Object.keys(catalogue).length;
  const found = groups.reduce((sum, { settings }) => sum + settings.length, 0);
  return (
    <nav aria-label="Catalogue of settings" className="min-w-0">
      <label className="block">
        <span className="sr-only">Filter {all} settings, by name or by what people complain of</span>
        <input
          type="search"
          className="w-full border-b border-ink-2 bg-transparent min-h-[28px] placeholder:text-ink-3"
          placeholder={`Filter ${all} settings, or type a symptom`}
          value={text}
          autoComplete="off"
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      {found === 0 && (
        <p className="text-ink-2 py-3">No setting has this name or this symptom. Try “blurred text” or “second screen black”.</p>
      )}
      <ul className="mt-1">
        {groups.map(({ subject: name, settings }) => {
          const isOpen = wanted !== '' || open.has(name);
          return (
            <li key={name} className="border-b border-rule">
              <button
                className="w-full flex justify-between min-h-[30px] items-center font-semibold"
                aria-expanded={isOpen}
                onClick={() =>
                  setOpen((before) => {
                    const after = new Set(before);
                    if (!after.delete(name)) after.add(name);
                    return after;
                  })
                }
              >
                {subjectWords[name]}
                <span className="font-normal text-ink-3">{settings.length}</span>
              </button>
              {isOpen && (
                <ul className="pb-2">
                  {settings.map(({ key, symptom }) => {
                    const why = values?.(key);
                    const isSet = why !== undefined && why.deciding !== null;
                    return (
                      <li key={key}>
                        <button
                          className={`w-full text-left flex gap-2 min-h-[26px] items-center pl-2 ${key === chosen ? 'border-l-[5.5px] border-bore font-bold' : 'border-l-[5.5px] border-transparent hover:bg-earth'}`}
                          aria-current={key === chosen ? 'true' : undefined}
                          onClick={() => onChoose(key)}
                        >
                          <span className="flex-1 min-w-0">
                            {catalogue[key].label}
                            {symptom && <span className="block text-[12px] leading-4 font-normal text-ink-3">{symptom}</span>}
                          </span>
                          {why && (
                            <span
                              className={`max-w-[92px] truncate ${isSet ? 'text-ink' : 'text-ink-3'} font-normal`}
                              title={valueText(key, why.value)}
                            >
                              {valueText(key, why.value)}
                            </span>
                          )}
                        </button>
                      </li>
                    );
                  })}
                </ul>
              )}
            </li>
          );
        })}
      </ul>
    </nav>
  );
}
