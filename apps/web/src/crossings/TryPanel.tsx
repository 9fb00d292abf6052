import type { Change, DraftView } from '@underpass/contracts';
import { isEmpty, type CrossingView } from '@underpass/core';
import { Strip } from '../ui/Strip.js';
import { CompareTable } from './CompareTable.js';
import { controlsFor } from './controls.js';
import type { CrossingAnswer } from './crossingAnswer.js';
import { summaryOf } from './summaryOf.js';
import { TryFoot } from './TryFoot.js';
import { useTried } from './useTried.js';

/** Try a change: on paper, before beside after; keep it, see its impact, or apply it at a layer. */
export function TryPanel({
  conflicts,
  answer,
  now,
  tried,
  untried,
  change,
  remedy,
  onChange,
  why,
}: {
  /** What stands otherwise now than when the draft that is tried was kept. */
  conflicts: DraftView['conflicts'];
  answer: CrossingAnswer;
  now: CrossingView;
  tried: CrossingView | null;
  /** Why the change could not be worked out, if it could not. */
  untried: string | null;
  change: Change;
  remedy: string | null;
  onChange: (change: Change, text: string | null) => void;
  why: CrossingAnswer['why'];
}) {
  const choice = useTried(answer, now, change, remedy, onChange);
  const shown = (tried ?? now).settings;
  return (
    <section id="try-a-change" aria-labelledby="try" className="pt-3 min-w-0">
      <h2 id="try">
        Try a change <small className="font-normal text-[13px] text-ink-3 ml-2">on paper, nothing is applied</small>
      </h2>
      <div className="no-print grid grid-cols-[minmax(0,1fr)] min-[1180px]:grid-cols-[auto_auto] min-[1180px]:justify-between gap-x-5 gap-y-[7px] mt-2">
        {controlsFor(now).map((control) => {
          const inForce = control.read(now.settings[control.key]);
          const options = control.options.includes(inForce) ? control.options : [...control.options, inForce];
          return (
            <div key={control.key} className="flex items-center gap-2" title={`Now ${inForce}, from ${why[control.key].from}`}>
              <span className="w-[78px] max-[719px]:w-[70px] text-ink-2 flex-none">{control.label}</span>
              <Strip
                label={control.label}
                options={options}
                value={control.read(shown[control.key])}
                inForce={inForce}
                {...(control.words ? { words: control.words } : {})}
                onChange={(option) => choice.choose(control, option)}
              />
            </div>
          );
        })}
      </div>
      <p className="text-ink-3 mt-2">
        <span className="no-print border-b-[1.5px] border-dotted border-current">dotted</span> is how it is now
        {remedy && <span className="text-ink ml-3">Trying: {remedy}</span>}
      </p>
      <CompareTable now={now} tried={tried} />
      {conflicts.length > 0 && (
        <div className="mt-2 border-l-[3px] border-amber pl-3">
          <p className="font-semibold">Changed since this draft was kept. Applying it writes over that:</p>
          <ul>
            {conflicts.map((conflict) => (
              <li key={`${conflict.kind}/${conflict.id}/${conflict.field}`}>{conflict.text}</li>
            ))}
          </ul>
        </div>
      )}
      {!isEmpty(change) && (
        <TryFoot
          answer={answer}
          change={change}
          summary={remedy ?? summaryOf(change)}
          untried={untried}
          choice={choice}
          onChange={onChange}
        />
      )}
    </section>
  );
}
