import type { Layer } from '@underpass/contracts';
import type { Explanation } from '@underpass/core';
import { layerWords, type Stratum } from './strata.js';
import { valueText } from './valueWords.js';

const height = 62;
const ground = 46;
const width = 640;
const coreWidth = 30;
const cores = { now: 452, draft: 548 } as const;

/** A soft boundary between two layers. */
const boundary = (y: number, i: number): string => {
  const [a, b] = i % 2 === 0 ? [-3, 3] : [2, -3];
  return `M0,${y} C110,${y + a} 210,${y + b} 320,${y + a / 2} S540,${y + b} ${width},${y}`;
};

interface Core {
  strata: readonly Stratum[];
  explanation: Explanation;
}

/** How deep a core goes: into the layer that decides; to the bottom where lists add up, or where nothing is set. */
const depthOf = ({ strata, explanation }: Core): number => {
  if (explanation.rule === 'add' || explanation.deciding === null) return strata.length;
  return strata.findIndex(({ layer }) => layer === explanation.deciding?.layer) + 1;
};

function Drill({ x, core, settingKey, label }: { x: number; core: Core; settingKey: string; label: string }) {
  const depth = depthOf(core);
  const bottom = ground + depth * height - (depth === core.strata.length ? 4 : 16);
  const isAdding = core.explanation.rule === 'add';
  const inForce = (stratum: Stratum, i: number) =>
    isAdding ? stratum.state === 'in force' : i === depth - 1 && core.explanation.deciding !== null;
  return (
    <g>
      <text x={x + coreWidth / 2} y={14} textAnchor="middle" fontSize="13" fontWeight="600" fill="var(--ink)">
        {label}
      </text>
      <path
        d={`M${x},${ground - 16} V${bottom} H${x + coreWidth} V${ground - 16}`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {core.strata.slice(0, depth).map((stratum, i) => {
        const top = ground + i * height;
        const end = Math.min(bottom, top + height);
        if (inForce(stratum, i))
          return (
            <rect
              key={stratum.layer}
              x={x}
              y={top + 4}
              width={coreWidth}
              height={Math.max(8, end - top - 4)}
              fill={label === 'now' ? 'var(--ink-2)' : 'var(--bore)'}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          );
        return stratum.state === 'hidden' ? (
          <rect key={stratum.layer} x={x} y={top} width={coreWidth} height={end - top} fill="url(#strata-hatch)" stroke="var(--ink)" />
        ) : null;
      })}
      <ellipse
        cx={x + coreWidth / 2}
        cy={ground - 16}
        rx={coreWidth / 2}
        ry={5}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {core.explanation.deciding === null && (
        <text x={x + coreWidth / 2} y={bottom + 16} textAnchor="middle" fontSize="12" fill="var(--ink-3)">
          default
        </text>
      )}
      <title>{`${label}: ${valueText(settingKey, core.explanation.value)}`}</title>
    </g>
  );
}

const Lock = ({ x, y }: { x: number; y: number }) => (
  <g transform={`translate(${x},${y})`} aria-hidden>
    <path d="M2.6 5V3.4a2.4 2.4 0 0 1 4.8 0V5" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
    <rect x="1" y="5" width="8" height="6" fill="var(--ink)" />
  </g>
);

/**
 * Six layers as strata, the organisation lowest; two drill cores, now and with the draft, stop in the layer that is in force. What is seen stands in the
 * table beside it for who does not see it.
 */
export function Strata({
  settingKey,
  now,
  draft,
  names,
  surface,
  chosen,
  onChoose,
  written,
}: {
  settingKey: string;
  now: Core;
  /** As it would be with a draft; null where there is none. */
  draft: Core | null;
  names: Record<Layer, string>;
  surface: string;
  chosen: Layer;
  onChoose: (layer: Layer) => void;
  written: (id: string) => string | null;
}) {
  const shown = draft ?? now;
  const bottom = ground + shown.strata.length * height;
  const fresh = draft !== null && JSON.stringify(draft.explanation.value) !== JSON.stringify(now.explanation.value);
  return (
    <div className="relative max-w-[640px] min-w-[560px]">
      <svg viewBox={`0 0 ${width} ${bottom + 20}`} className="block w-full" aria-hidden>
        <defs>
          <pattern id="strata-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="7" stroke="var(--rule-2)" strokeWidth="1" />
          </pattern>
        </defs>
        <text x={0} y={ground - 14} fontSize="13" fill="var(--ink-2)">
          Surface: {surface}
        </text>
        {shown.strata.map(({ layer, state }, i) => {
          const y = ground + i * height;
          const fill = state === 'in force' ? 'var(--tile-wash)' : state === 'hidden' ? 'var(--earth)' : 'none';
          return (
            <g key={layer}>
              <rect x={0} y={y} width={width} height={height} fill={fill} />
              {state === 'hidden' && (
                <path
                  d={`M${width - 250},${y + height} L${width - 170},${y} H${width} V${y + height}Z`}
                  fill="url(#strata-hatch)"
                  opacity="0.7"
                />
              )}
            </g>
          );
        })}
        {shown.strata.map(({ layer, locked }, i) =>
          i === 0 ? null : (
            <path
              key={layer}
              d={boundary(ground + i * height, i)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={locked ? 3.4 : 1}
              opacity={locked ? 1 : 0.8}
            />
          ),
        )}
        <path d={`M0,${ground} H${width}`} stroke="var(--ink)" strokeWidth="1.5" />
        {[30, 110, 200, 290].map((x) => (
          <path
            key={x}
            d={`M${x},${ground + 8} l6,-6 M${x + 7},${ground + 8} l6,-6 M${x + 14},${ground + 8} l6,-6`}
            stroke="var(--ink-3)"
            strokeWidth="1"
          />
        ))}
        <path d={`M0,${bottom} H${width}`} stroke="var(--ink-2)" strokeWidth="1" />
        <Drill x={cores.now} core={now} settingKey={settingKey} label="now" />
        {draft && <Drill x={cores.draft} core={draft} settingKey={settingKey} label="with draft" />}
        {shown.strata.map(({ layer, locked }, i) => (locked ? <Lock key={layer} x={174} y={ground + i * height + 11} /> : null))}
      </svg>
      <ul className="absolute inset-0" aria-label="Layers, the nearest first">
        {shown.strata.map((stratum, i) => (
          <li
            key={stratum.layer}
            className="absolute left-0"
            style={{ top: `${((ground + i * height) / (bottom + 20)) * 100}%`, height: `${(height / (bottom + 20)) * 100}%`, width: '69%' }}
          >
            <button
              className={`w-full h-full text-left grid grid-cols-[minmax(0,42%)_minmax(0,58%)] content-start pt-2 pl-2.5 gap-x-2 ${stratum.layer === chosen ? 'border-l-[5.5px] border-bore' : 'border-l-[5.5px] border-transparent'}`}
              aria-pressed={stratum.layer === chosen}
              onClick={() => onChoose(stratum.layer)}
            >
              <span className="min-w-0">
                <b className="font-semibold block">{layerWords[stratum.layer]}</b>
                <span className="text-[12.5px] text-ink-2 block truncate">{names[stratum.layer]}</span>
              </span>
              <StratumWords stratum={stratum} settingKey={settingKey} written={written} />
            </button>
          </li>
        ))}
      </ul>
      <p className="sr-only" role="status">
        In force {valueText(settingKey, now.explanation.value)}
        {fresh && draft && `, with the draft ${valueText(settingKey, draft.explanation.value)}`}
      </p>
    </div>
  );
}

function StratumWords({ stratum, settingKey, written }: { stratum: Stratum; settingKey: string; written: (id: string) => string | null }) {
  const [first, ...more] = [...stratum.entries].sort((a, b) => Number(b.state === 'in force') - Number(a.state === 'in force'));
  if (!first) return <span className="text-ink-3">not set</span>;
  const { entry, state, because } = first;
  return (
    <span className="min-w-0">
      <b className={`block truncate ${state === 'in force' ? 'text-[15px]' : 'font-semibold text-ink-2'}`}>
        {valueText(settingKey, entry.value)}
        {entry.locked && <span className="text-[12.5px] ml-6">locked</span>}
        {state !== 'in force' && <span className="font-normal text-ink-3 ml-2">hidden</span>}
      </b>
      <span className="block text-[12.5px] text-ink-2 truncate" title={because ?? undefined}>
        {because ?? (written(entry.id) || 'in force')}
        {more.length > 0 && `, and ${more.length} more here`}
      </span>
    </span>
  );
}
