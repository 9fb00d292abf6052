import { faultsOfIssues, HostReport, type Recipe } from '@underpass/contracts';
import { evaluateRecipe, stepSays, type RecipeResult, type StepResult } from '@underpass/core';
import { useMemo, useState } from 'react';

const shape: Record<StepResult['status'], string> = {
  done: 'text-ink-2',
  'to do': 'text-amber font-semibold',
  'not known': 'text-ink-3',
  'does not apply': 'text-ink-3',
};
/** A report of a host is far below this; more is no report. */
const mostLetters = 500_000;

type Read = { ok: true; report: HostReport } | { ok: false; fault: string };
function readReport(text: string): Read {
  if (text.length > mostLetters) return { ok: false, fault: 'That is longer than a report can be.' };
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return { ok: false, fault: `That is no JSON (${(error as Error).message}). Paste all that the script printed.` };
  }
  const read = HostReport.safeParse(json);
  if (read.success) return { ok: true, report: read.data };
  const [first] = faultsOfIssues(read.error.issues);
  const what = first?.path.length ? `${first.path.join('.')}: ${first.problem}` : 'That is no report of a host';
  return { ok: false, fault: `${what}. Run the script of this recipe, and paste all that it printed.` };
}

/** The steps of a recipe, and how they stand on the host whose report was pasted; it is read here and sent nowhere. */
export function ReportCheck({ recipe }: { recipe: Recipe }) {
  const [text, setText] = useState('');
  const [now] = useState(() => Date.now());
  const read = useMemo(() => (text.trim() === '' ? null : readReport(text)), [text]);
  const result = read?.ok ? evaluateRecipe(recipe, read.report, now) : null;
  return (
    <section aria-labelledby="report" className="mt-5">
      <h2 id="report">{result ? headline(result) : 'Steps'}</h2>
      <label className="block text-ink-2 mt-1">
        Run the script on the host, and paste what it prints. It stays in this browser.
        <textarea
          className="field block w-full h-auto mt-2 font-mono text-[12.5px]"
          rows={3}
          spellCheck={false}
          aria-label="Report of a host"
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      <div role="status">
        {read && !read.ok && <p className="text-brick mt-2">{read.fault}</p>}
        {result && result.applies !== 'yes' && (
          <p className="text-amber mt-2">
            {result.applies === 'no'
              ? `The recipe is none for this host: ${result.because}.`
              : `Whether the recipe is for this host is not known: ${result.because}.`}
          </p>
        )}
      </div>
      <ol className="mt-3" aria-label="Steps">
        {recipe.steps.map((step, i) => {
          const stands = result?.steps[i];
          return (
            <li
              key={step.id}
              className="border-t border-rule py-1.5 grid grid-cols-[minmax(0,1fr)] min-[700px]:grid-cols-[minmax(0,1fr)_130px] gap-x-4"
            >
              <span>
                <strong>{step.name}</strong> <span className="text-ink-2">{stepSays(step)}</span>
                {stands && <span className="block text-ink-2">{stands.found}</span>}
                {stands?.todo && <span className="block">{stands.todo}</span>}
              </span>
              <span className={stands ? shape[stands.status] : 'text-ink-3'}>
                {stands?.status ?? [step.from && `from ${step.from}`, step.below && `below ${step.below}`].filter(Boolean).join(', ')}
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function headline({ applies, steps }: RecipeResult): string {
  const count = (status: StepResult['status']) => steps.filter((each) => each.status === status).length;
  const [todo, unknown] = [count('to do'), count('not known')];
  if (applies === 'no') return 'This recipe is none for the host';
  if (todo > 0) return `${todo === 1 ? 'One step is' : `${todo} steps are`} to do${unknown > 0 ? `, ${unknown} not known` : ''}`;
  if (unknown > 0) return `Nothing is known to be missing; ${unknown === 1 ? 'one step is' : `${unknown} steps are`} not known`;
  return 'The host is prepared';
}
