import type { ChainNode } from '@underpass/contracts';
import { Link } from 'react-router';
import { stationsOf, type Station } from './chainGeometry.js';
import { useMeasuredWidth } from './useMeasuredWidth.js';
import { clipText } from './text.js';

const kinds = ['person', 'group', 'publication', 'portal', 'resource'] as const;
const heads: Record<(typeof kinds)[number], string> = {
  person: 'Person',
  group: 'Group',
  publication: 'Publication',
  portal: 'Portal',
  resource: 'Resource',
};
const height = 40;
const axis = 29;

export interface ChainRow {
  key: string;
  /** In the order of the chain; null stands where a link is missing. */
  nodes: readonly (ChainNode | null)[];
  /** Behind the last node. */
  note?: string;
  /** Where the row leads. */
  to?: string;
}

/** The chain in words, for whoever does not see it drawn. */
const chainWords = (nodes: ChainRow['nodes']): string =>
  nodes.map((node) => (node ? `${heads[node.kind].toLowerCase()} ${node.name}` : 'missing link')).join(', then ');

/**
 * Ways from a person to a resource, drawn as pieces of bore under the names they pass. A missing link is a gap: the bore ends in a
 * break, what lies beyond is dotted.
 */
export function Chains({ rows, label, withPerson = true }: { rows: readonly ChainRow[]; label: string; withPerson?: boolean }) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(900);
  const shown = withPerson ? kinds : kinds.slice(1);
  const column = Math.max(112, width / shown.length);
  return (
    <div ref={frame} role="region" aria-label="The chain" tabIndex={0} className="overflow-x-auto">
      <div aria-hidden className="grid head text-[12.5px] pb-0.5" style={{ gridTemplateColumns: `repeat(${shown.length}, ${column}px)` }}>
        {shown.map((kind) => (
          <span key={kind}>{heads[kind]}</span>
        ))}
      </div>
      <ul aria-label={label}>
        {rows.map((row) => (
          <li key={row.key} className="border-b border-rule">
            {row.to ? (
              <Link data-row to={row.to} className="block hover:bg-earth">
                <span className="sr-only">{chainWords(row.nodes)}</span>
                <ChainLine row={row} column={column} kinds={shown} />
              </Link>
            ) : (
              <>
                <span className="sr-only">{chainWords(row.nodes)}</span>
                <ChainLine row={row} column={column} kinds={shown} />
              </>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

function ChainLine({ row, column, kinds: shown }: { row: ChainRow; column: number; kinds: readonly string[] }) {
  const stations = stationsOf(row.nodes, column, shown);
  const broken = stations.findIndex((station) => station.gap);
  return (
    <svg aria-hidden width={column * shown.length} height={height} className="block">
      {stations.slice(1).map((station, i) => {
        const from = (stations[i] as Station).x;
        const { x, gap } = station;
        const beyond = broken >= 0 && i + 1 > broken;
        if (!gap && !beyond) return <path key={i} d={`M${from} ${axis}H${x}`} stroke="var(--bore)" strokeWidth="5.5" />;
        if (!gap) return <Dotted key={i} from={from} to={x} />;
        const middle = (from + x) / 2;
        return (
          <g key={i}>
            {i === 0 || !stations.slice(0, i + 1).some((each) => each.gap) ? (
              <path d={`M${from} ${axis}H${middle - 8}`} stroke="var(--bore)" strokeWidth="5.5" />
            ) : null}
            <path
              d={`M${middle - 7} ${axis - 9}l3.5 6-5 5 5 5-3.5 4M${middle + 1} ${axis - 9}l3.5 6-5 5 5 5-3.5 4`}
              fill="none"
              stroke="var(--brick)"
              strokeWidth="2"
            />
            <Dotted from={middle + 8} to={x} />
          </g>
        );
      })}
      {stations.map(({ node, x, room }, i) => (
        <g key={`${node.kind}/${node.id}`}>
          <circle
            cx={x}
            cy={axis}
            r={i === stations.length - 1 ? 5 : 3.8}
            fill="var(--paper)"
            stroke={broken >= 0 && i >= broken ? 'var(--ink-3)' : 'var(--ink)'}
            strokeWidth="1.5"
            strokeDasharray={broken >= 0 && i >= broken ? '2 1.6' : undefined}
          />
          <text
            x={x - 5}
            y="16"
            fontSize="13"
            fontWeight={node.kind === 'resource' || node.kind === 'person' ? 700 : 400}
            fill={broken >= 0 && i >= broken ? 'var(--ink-2)' : 'var(--ink)'}
          >
            <title>{node.name}</title>
            {clipText(node.name, room)}
          </text>
        </g>
      ))}
      {row.note && (
        <text x={(stations.at(-1)?.x ?? 0) + 10} y={axis + 4.5} fontSize="12.5" fill="var(--ink-3)">
          {clipText(row.note, column - 24)}
        </text>
      )}
    </svg>
  );
}

const Dotted = ({ from, to }: { from: number; to: number }) => (
  <path
    d={`M${from} ${axis - 2.7}H${to}M${from} ${axis + 2.7}H${to}`}
    stroke="var(--ink-3)"
    strokeWidth="1.2"
    strokeDasharray="1.5 3.5"
    fill="none"
  />
);
