import type { RequirementSetView } from '@underpass/contracts';
import { Link } from 'react-router';

/** A set on the estate in one sentence. */
export const readinessSentence = (set: RequirementSetView): string => {
  const total = set.ready + set.fallback + set.notReady + set.notKnown;
  if (total === 0) return 'It is for nobody in this estate.';
  const [first] = set.blockers;
  if (set.notReady === 0)
    return set.notKnown
      ? `${set.notKnown} of ${total} people are not known.`
      : `All ${total} people are ready${set.fallback ? `, ${set.fallback} with a fallback` : ''}.`;
  return `${set.notReady} of ${total} people are not ready. Most often not met: ${(first?.name ?? '').charAt(0).toLowerCase()}${(first?.name ?? '').slice(1)}.`;
};

/** What is not met, in which order to mend it, what is given up, and who is concerned. */
export function SetResult({ set, onEdit }: { set: RequirementSetView; onEdit?: () => void }) {
  return (
    <>
      <p className="text-ink-2">
        {set.purpose}
        {set.breaks && ` Where it is not met, the step “${set.breaks}” breaks.`}
        {onEdit && ' '}
        {onEdit && (
          <button className="link" onClick={onEdit}>
            Show and edit as text
          </button>
        )}
      </p>
      {set.blockers.length > 0 && <Blockers blockers={set.blockers} />}
      {set.remedies.length > 0 && <Remedies steps={set.remedies} />}
      {set.givenUp.length > 0 && (
        <>
          <h2 className="mt-5">What will not work afterwards</h2>
          <ul className="mt-1 border-t-[1.5px] border-ink">
            {set.givenUp.map((text) => (
              <li key={text} className="border-b border-rule py-1">
                {text}
              </li>
            ))}
          </ul>
        </>
      )}
      {set.people.length > 0 && (
        <>
          <h2 className="mt-5">People</h2>
          <ul className="mt-1 border-t-[1.5px] border-ink max-h-[260px] overflow-auto">
            {set.people.map((person) => (
              <li key={person.id} className="border-b border-rule py-1 grid grid-cols-1 min-[640px]:grid-cols-[160px_100px_1fr] gap-3">
                <Link
                  className="border-b border-dotted border-ink-3 justify-self-start"
                  to={`/crossings/${encodeURIComponent(person.crossing)}?q=open`}
                >
                  {person.name}
                </Link>
                <span className={person.readiness === 'not ready' ? 'text-brick font-semibold' : 'text-ink-2'}>{person.readiness}</span>
                <span>{person.unmet.join('; ')}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function Blockers({ blockers }: { blockers: RequirementSetView['blockers'] }) {
  return (
    <table className="w-full mt-3 border-collapse">
      <caption className="text-left text-[15px] font-bold pb-1">What is not met</caption>
      <thead>
        <tr className="head">
          <th className="text-left font-normal pb-1">Condition</th>
          <th className="text-left font-normal">Bay</th>
          <th className="text-right font-normal pr-4">People</th>
          <th className="text-right font-normal pr-4">Only this</th>
          <th className="text-left font-normal">Who can do it</th>
        </tr>
      </thead>
      <tbody>
        {blockers.map((blocker) => (
          <tr key={blocker.condition} className="border-b border-rule h-[26px]">
            <td className="pr-3 font-semibold">{blocker.name}</td>
            <td className="pr-3">{blocker.bay}</td>
            <td className="text-right pr-4">{blocker.people}</td>
            <td className="text-right pr-4">{blocker.alone}</td>
            <td>{blocker.who}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Remedies({ steps }: { steps: RequirementSetView['remedies'] }) {
  return (
    <>
      <h2 className="mt-5">
        Order of remedies <span className="font-normal text-ink-3 text-[13px] ml-1">most people an hour of work first</span>
      </h2>
      <ol className="mt-1 border-t-[1.5px] border-ink">
        {steps.map((step) => (
          <li
            key={step.works.map((work) => `${work.name}${work.object}`).join()}
            className="border-b border-rule py-1 grid grid-cols-[1fr_auto] gap-4"
          >
            <span>
              {step.works.map((work, i) => (
                <span key={`${work.name}${work.object}`}>
                  {i > 0 && '; '}
                  {work.name}{' '}
                  <span className="text-ink-3">
                    ({work.object}, {work.who.toLowerCase()})
                  </span>
                </span>
              ))}
            </span>
            <span className="whitespace-nowrap">
              <b>{step.people}</b> {step.people === 1 ? 'person' : 'people'} <span className="text-ink-3">for {step.effortH} h</span>
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}
