import type { CrossingView, Section } from '@underpass/core';
import { SourceMark, type SourceWord } from '../ui/SourceMark.js';
import { fixed } from '../ui/figures.js';

/** Everything known of one bay: each fact with where it comes from, and the parts of its delay and sign-on. */
export function BayPanel({ view, section, bay, onClose }: { view: CrossingView; section: Section; bay: number; onClose: () => void }) {
  const shown = section.bays[bay];
  if (!shown) return null;
  const parts = view.delayParts.filter((part) => part.bay === shown.bay);
  const steps = view.steps.filter((step) => step.bay === shown.bay);
  return (
    <div className="border-t border-rule py-3 grid items-start grid-cols-1 min-[1000px]:grid-cols-3 gap-x-12 gap-y-3">
      <div>
        <h2>
          {bay + 1} {shown.bay}
          <button className="btn btn-small btn-quiet ml-3" onClick={onClose}>
            Close
          </button>
        </h2>
        <ul className="mt-1.5">
          {shown.facts.map((fact) => (
            <li key={fact.text} className="flex gap-2 items-baseline py-0.5">
              <SourceMark source={fact.source as SourceWord} />
              <span>
                {fact.text}
                <span className="text-ink-3"> {fact.note ? `${fact.source}, ${fact.note}` : fact.source}</span>
                {fact.notUsed && <span className="block text-ink-3">{fact.notUsed}</span>}
              </span>
            </li>
          ))}
        </ul>
      </div>
      <Figures
        title="Delay"
        rows={parts.map((part) => ({ name: part.name, value: `${fixed(part.ms, 1)} ms`, source: part.source as SourceWord }))}
      />
      <div>
        <Figures
          title="Sign-on"
          rows={steps.map((step) => ({
            name: `${step.name}${step.byPerson ? ', by the person' : ''}`,
            value: `${fixed(step.seconds, 1)} s`,
            source: step.source as SourceWord,
          }))}
        />
        {shown.bay === 'Desk' && (
          <Figures
            title="On the desk"
            rows={view.desk.map((item) => ({
              name: `${item.name}${item.why ? `: ${item.why}` : ''}`,
              value: item.works === null ? 'not known' : item.works ? item.carriedAs : 'does not work',
              source: 'computed' as const,
            }))}
          />
        )}
        {(shown.bay === 'Gateway' || shown.bay === 'Host') && (
          <Figures
            title="Steps until it opens"
            rows={view.ladder.map((step) => ({
              name: step.name,
              value: step.state === 'assumed' ? 'taken to pass' : step.state === 'not known' ? 'may break, not known' : step.state,
              source: step.state === 'assumed' || step.state === 'not known' ? ('assumed' as const) : ('computed' as const),
            }))}
          />
        )}
      </div>
    </div>
  );
}

function Figures({ title, rows }: { title: string; rows: { name: string; value: string; source: SourceWord }[] }) {
  if (rows.length === 0) return null;
  return (
    <table className="w-full border-collapse mb-2">
      <caption className="text-left font-bold pb-1">{title}</caption>
      <tbody>
        {rows.map((row) => (
          <tr key={row.name} className="border-b border-rule h-6">
            <td className="pr-2 w-4">
              <SourceMark source={row.source} />
            </td>
            <td className="pr-3">{row.name}</td>
            <td className="text-right whitespace-nowrap">{row.value}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
