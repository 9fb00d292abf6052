import { SourcePath } from '../ui/SourceMark.js';
import { fixed } from '../ui/figures.js';

interface Part {
  /** null where it is not reached. */
  value: number | null;
  before: number | null;
  assumed: boolean;
  bold: boolean;
}

/** A dimension line: oblique ticks at the rules, the figure above, the largest part bold. */
export function DimensionLine({
  y,
  name,
  unit,
  left,
  column,
  parts,
  digits,
  over,
}: {
  y: number;
  name: string;
  unit: string;
  left: number;
  column: number;
  parts: Part[];
  digits: number;
  over: boolean;
}) {
  return (
    <g>
      <text x="0" y={y + 1} fontSize="12.5" fontWeight="700">
        {name}{' '}
        <tspan fontWeight="400" fill="var(--ink-3)">
          {unit}
        </tspan>
      </text>
      <path
        d={`M${left} ${y + 4}H${left + 7 * column}${parts.map((_, i) => `M${left + i * column - 3.5} ${y + 8.5}l7 -9`).join('')}M${left + 7 * column - 3.5} ${y + 8.5}l7 -9`}
        stroke="var(--ink-2)"
        strokeWidth="1.1"
        fill="none"
      />
      {parts.map((part, i) => {
        const x = left + (i + 0.5) * column;
        const shown = part.value === null ? 'not reached' : part.value < (digits ? 0.05 : 0.5) ? '–' : fixed(part.value, digits);
        const earlier = part.before === null || part.value === null ? null : fixed(part.before, digits);
        const changed = earlier !== null && part.value !== null && earlier !== fixed(part.value, digits);
        return (
          <g key={i}>
            {part.assumed && part.value !== null && shown !== '–' && (
              <g
                color="var(--ink-2)"
                transform={`translate(${x - 13 - shown.length * 3.8 - (changed ? (earlier.length + 1) * 3.8 : 0)} ${y - 10}) scale(.85)`}
              >
                <SourcePath source="assumed" />
              </g>
            )}
            <text
              x={x}
              y={y - 2}
              textAnchor="middle"
              fontSize="13"
              fontWeight={part.bold ? 700 : 400}
              fill={part.value === null ? 'var(--ink-3)' : part.bold && over ? 'var(--amber)' : 'var(--ink)'}
            >
              {changed && (
                <tspan textDecoration="line-through" fill="var(--ink-3)" fontWeight="400">
                  {earlier}
                </tspan>
              )}
              {changed && ' '}
              {shown}
            </text>
          </g>
        );
      })}
    </g>
  );
}
