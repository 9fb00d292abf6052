import { figureText } from './words.js';
import { bankOf, type Duct, type PlacedDuct } from './ductGeometry.js';

/** A name cut to what fits beneath its duct. */
const cut = (name: string): string => (name.length > 13 ? `${name.slice(0, 12)}…` : name);

function Ring({ placed: { duct, x, y, r } }: { placed: PlacedDuct }) {
  if (duct.claimedTwice)
    return (
      <g fill="none" stroke="var(--brick)" strokeWidth="2.5">
        <circle cx={x - r * 0.28} cy={y} r={r} />
        <circle cx={x + r * 0.28} cy={y} r={r} />
      </g>
    );
  switch (duct.carriedAs) {
    case 'raw USB':
      return <circle cx={x} cy={y} r={r} fill="var(--bore)" stroke="var(--ink)" strokeWidth="1.5" />;
    case 'local only':
      return <circle cx={x} cy={y} r={r} fill="none" stroke="var(--ink-2)" strokeWidth="1.5" strokeDasharray="3 2.4" />;
    case 'not allowed':
      return (
        <g stroke="var(--ink)" strokeWidth="1.5">
          <circle cx={x} cy={y} r={r + 4} fill="url(#duct-hatch)" />
          <path
            d={`M${x - r * 0.6},${y - r * 0.6} L${x + r * 0.6},${y + r * 0.6} M${x + r * 0.6},${y - r * 0.6} L${x - r * 0.6},${y + r * 0.6}`}
            strokeWidth="2"
          />
        </g>
      );
    default:
      return <circle cx={x} cy={y} r={r} fill="var(--paper)" stroke="var(--tile)" strokeWidth="4" />;
  }
}

const shortWords = (duct: Duct): string => {
  if (duct.claimedTwice) return 'claimed twice';
  if (duct.carriedAs === 'local only') return 'stays local';
  if (duct.carriedAs === 'not allowed') return duct.rule ? cut(duct.rule) : 'not allowed';
  if (duct.exchanges > 1) return `${duct.exchanges} exchanges`;
  return duct.carriedAs === 'raw USB' ? `${figureText(duct.mbps)}, raw` : figureText(duct.mbps);
};

/** The bore seen end-on: ducts cast in one block, one for each function, by direction. The same stands in the table beside it. */
export function DuctBank({ ducts, label }: { ducts: readonly Duct[]; label: string }) {
  const bank = bankOf(ducts);
  const { block } = bank;
  return (
    <figure aria-label={label}>
      <svg viewBox={`0 0 ${bank.width} ${bank.height}`} width={bank.width} className="block max-w-none" aria-hidden>
        <defs>
          <pattern id="duct-hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="5" stroke="var(--rule-2)" strokeWidth="1.2" />
          </pattern>
        </defs>
        <path d={`M0,12 H${bank.width}`} stroke="var(--ink)" strokeWidth="1.5" />
        {[40, 200, 360, 520]
          .filter((x) => x < bank.width - 20)
          .map((x) => (
            <path key={x} d={`M${x},20 l6,-6 M${x + 7},20 l6,-6 M${x + 14},20 l6,-6`} stroke="var(--ink-3)" />
          ))}
        <rect x={block.x} y={block.y} width={block.width} height={block.height} fill="var(--earth)" stroke="var(--ink)" strokeWidth="1.5" />
        <path d={`M${block.x},${bank.middle} H${block.x + block.width}`} stroke="var(--ink-2)" strokeDasharray="2 4" />
        <g fontSize="12.5" fill="var(--ink-2)" textAnchor="end">
          <text x={block.x - 10} y={bank.middle - 78}>
            to the
          </text>
          <text x={block.x - 10} y={bank.middle - 62}>
            session
          </text>
          <text x={block.x - 10} y={bank.middle + 54}>
            back to
          </text>
          <text x={block.x - 10} y={bank.middle + 70}>
            the desk
          </text>
        </g>
        {bank.placed.map((placed) => (
          <g key={placed.duct.name}>
            <Ring placed={placed} />
            <text x={placed.x} y={placed.y + 56} textAnchor="middle" fontSize="12.5" fontWeight="600" fill="var(--ink)">
              {cut(placed.duct.name)}
            </text>
            <text
              x={placed.x}
              y={placed.y + 72}
              textAnchor="middle"
              fontSize="12"
              fill={placed.duct.claimedTwice ? 'var(--brick)' : 'var(--ink-2)'}
            >
              {shortWords(placed.duct)}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-[12.5px] text-ink-2">
        Area: what it asks of the line, Mbit/s. Ring: by its channel; full: raw; hatched: not allowed; dashed: stays at the desk; two rings:
        two take it.
      </figcaption>
    </figure>
  );
}
