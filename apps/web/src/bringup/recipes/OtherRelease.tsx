import type { Recipe, RecipeStep } from '@underpass/contracts';
import { releaseChange, stepSays } from '@underpass/core';
import { useState } from 'react';
import { isRelease } from '../words.js';

/** What another release of the system adds, drops or makes another. */
export function OtherRelease({ recipe }: { recipe: Recipe }) {
  const edges = [...new Set(recipe.steps.flatMap(({ from, below }) => [from, below]).filter((each) => each !== undefined))];
  const [after, setAfter] = useState(edges[0] ?? '');
  const [before, setBefore] = useState(recipe.from ?? '');
  const change = isRelease(before) && isRelease(after) ? releaseChange(recipe, before.trim(), after.trim()) : null;
  return (
    <section aria-labelledby="other-release" className="mt-8">
      <h2 id="other-release">With another release</h2>
      <p className="mt-2 flex flex-wrap gap-2 items-center">
        <label className="flex items-center gap-2">
          From
          <input
            className="field w-[72px]"
            autoComplete="off"
            value={before}
            aria-invalid={!isRelease(before)}
            onChange={({ target }) => setBefore(target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          to
          <input
            className="field w-[72px]"
            autoComplete="off"
            value={after}
            aria-invalid={!isRelease(after)}
            onChange={({ target }) => setAfter(target.value)}
          />
        </label>
      </p>
      <div role="status" className="mt-2">
        {!change ? (
          <p className="text-ink-2">Type two releases, such as 12 and 13.</p>
        ) : (
          <>
            {!change.applies && <p className="text-amber">The recipe is not for release {after}.</p>}
            {change.added.length + change.dropped.length + change.changed.length === 0 ? (
              <p>All {change.same.length} steps stay as they are.</p>
            ) : (
              <ul>
                <Steps word="comes" steps={change.added} />
                {change.changed.map(({ before: was, after: is }) => (
                  <li key={is.id} className="border-t border-rule py-1.5">
                    <strong>{is.name}</strong> becomes another: {stepSays(is)}{' '}
                    <span className="text-ink-2">instead of: {stepSays(was)}</span>
                  </li>
                ))}
                <Steps word="goes" steps={change.dropped} />
                <li className="border-t border-rule py-1.5 text-ink-2">{change.same.length} stay as they are.</li>
              </ul>
            )}
          </>
        )}
      </div>
    </section>
  );
}

const Steps = ({ word, steps }: { word: string; steps: readonly RecipeStep[] }) =>
  steps.map((step) => (
    <li key={step.id} className="border-t border-rule py-1.5">
      <strong>{step.name}</strong> {word}: {stepSays(step)}. {word === 'comes' && <span className="text-ink-2">{step.todo}</span>}
    </li>
  ));
