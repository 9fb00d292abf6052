import { ToggleGroup } from 'radix-ui';

/** A choice of up to five: chosen is ink, what is in force now is underlined with dots. */
export function Strip<T extends string>({
  label,
  options,
  value,
  inForce,
  onChange,
  words,
  disabled,
}: {
  label: string;
  options: readonly T[];
  value: T;
  inForce?: T;
  onChange: (value: T) => void;
  words?: Partial<Record<T, string>>;
  disabled?: boolean;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      value={value}
      disabled={disabled ?? false}
      onValueChange={(next) => next && onChange(next as T)}
      aria-label={label}
      className="inline-flex flex-wrap max-w-full justify-self-start border border-rule-2 bg-sheet rounded-[2px] divide-x divide-rule-2"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option}
          value={option}
          className="h-[24px] px-[7px] text-[13px] whitespace-nowrap data-[state=on]:bg-ink data-[state=on]:text-paper data-[state=on]:font-bold hover:bg-earth"
        >
          <span className={option === inForce ? 'border-b-[1.5px] border-dotted border-current' : ''}>
            {words?.[option] ?? option}
            {option === inForce && <span className="sr-only"> (in force now)</span>}
          </span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
