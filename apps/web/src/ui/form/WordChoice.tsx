import { said } from '../said.js';
import type { Control } from './control.js';

/** One of few words. A word that is none of them stays until another is chosen. */
export function WordChoice({
  id,
  label,
  value,
  onChange,
  onBlur,
  disabled,
  invalid,
  describedBy,
  words,
  empty,
  className = 'field w-full max-w-[280px] disabled:bg-earth',
}: Control<string> & { words: readonly string[]; /** What stands for nothing chosen. */ empty: string; className?: string }) {
  return (
    <select
      id={id}
      aria-label={label}
      disabled={disabled}
      aria-invalid={invalid}
      aria-describedby={describedBy}
      className={className}
      value={value}
      onBlur={onBlur}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="">{empty}</option>
      {[...words, ...(value !== '' && !words.includes(value) ? [value] : [])].map((word) => (
        <option key={word} value={word}>
          {said(word)}
        </option>
      ))}
    </select>
  );
}

/** Some of few words. */
export function WordChoices({
  id,
  label,
  value,
  onChange,
  disabled,
  describedBy,
  words,
}: Control<readonly string[]> & { words: readonly string[] }) {
  return (
    <span id={id} role="group" aria-label={label} aria-describedby={describedBy} className="flex flex-wrap gap-x-4 gap-y-1 py-1">
      {words.map((word) => (
        <label key={word} className="inline-flex items-center gap-1.5 min-h-[24px]">
          <input
            type="checkbox"
            disabled={disabled}
            checked={value.includes(word)}
            onChange={({ target }) => onChange(words.filter((each) => (each === word ? target.checked : value.includes(each))))}
          />
          {said(word)}
        </label>
      ))}
    </span>
  );
}
