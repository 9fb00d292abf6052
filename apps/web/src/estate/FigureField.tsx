import { useId } from 'react';

/** A number that may be another here: its unit behind it, what is wrong beneath it, and a way back to what is shipped. */
export function FigureField({
  label,
  unit,
  text,
  fault,
  readOnly,
  onType,
  onReset,
}: {
  label: string;
  unit: string;
  text: string;
  fault: string | undefined;
  readOnly: boolean;
  onType: (text: string) => void;
  onReset?: (() => void) | undefined;
}) {
  const id = useId();
  return (
    <span className="block">
      <span className="flex items-center gap-2">
        <input
          className={`field w-[76px] text-right ${fault ? 'border-brick' : ''}`}
          aria-label={unit ? `${label}, ${unit}` : label}
          aria-invalid={fault ? true : undefined}
          aria-describedby={fault ? id : undefined}
          inputMode="decimal"
          value={text}
          readOnly={readOnly}
          onChange={(event) => onType(event.target.value)}
        />
        {unit && <span className="text-ink-3 whitespace-nowrap">{unit}</span>}
        {onReset && (
          <button type="button" className="btn btn-small btn-quiet" aria-label={`${label}: as shipped`} onClick={onReset}>
            as shipped
          </button>
        )}
      </span>
      {fault && (
        <span id={id} className="text-brick font-semibold block text-[12.5px]">
          {fault}
        </span>
      )}
    </span>
  );
}
