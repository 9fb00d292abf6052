import type { LinkTestView, Named, Verdict as VerdictWord } from '@underpass/contracts';
import { Link } from 'react-router';
import { Verdict } from '../ui/Verdict.js';
import { LinkSaving } from './LinkSaving.js';
import { fixed } from '../ui/figures.js';

/** What a link comes to for a person: the ladder, what the browser client lacks, and what is saved. */
export function LinkTest({
  test,
  resource,
  browser,
  version: asked,
  onBrowser,
}: {
  test: LinkTestView;
  resource: Named | null;
  browser: string;
  version: string;
  onBrowser: (browser: string, version: string) => void;
}) {
  const { measured } = test;
  return (
    <div aria-live="polite">
      <p className="mt-5 text-[15px] leading-5">
        <Verdict verdict={test.verdict as VerdictWord} className="mr-2" />
        {test.sentence}
        {test.crossing && (
          <Link className="link ml-2" to={`/crossings/${encodeURIComponent(test.crossing)}?q=open`}>
            Open the crossing
          </Link>
        )}
      </p>
      <div className="grid grid-cols-1 min-[700px]:grid-cols-2 gap-x-10 mt-3">
        <section aria-label="Ladder">
          <h3 className="head font-normal pb-1">Steps until it opens</h3>
          <ol>
            {test.ladder.map((step) => (
              <li
                key={step.name}
                className={`border-b border-rule py-0.5 flex gap-2 ${step.state === 'broken' ? 'text-brick font-bold' : step.state === 'not reached' ? 'text-ink-3' : ''}`}
              >
                <span className="flex-1">{step.name}</span>
                {step.state === 'assumed' ? 'taken to pass' : step.state === 'not known' ? 'may break' : step.state}
              </li>
            ))}
          </ol>
        </section>
        <section aria-label="Lost in the browser">
          <h3 className="head font-normal pb-1">
            Lost in {test.browserName} {asked}, compared with the native client
          </h3>
          <ul>
            {test.lost.map((feature) => (
              <li key={feature.feature} className="border-b border-rule py-0.5 flex gap-2">
                <span className="flex-1">{feature.feature}</span>
                <span className="text-ink-2">
                  {feature.support === 'partly' ? 'only partly' : feature.from ? `from version ${feature.from}` : 'not at all'}
                </span>
              </li>
            ))}
            {test.lost.length === 0 && (
              <li className="py-0.5 text-ink-2">Nothing: {test.features.join(', ')} are all there, once the person allows them.</li>
            )}
          </ul>
          <p className="text-ink-3 mt-1">From {test.source}</p>
          {measured && (measured.browser !== browser || measured.version !== asked) && (
            <button className="link mt-1" onClick={() => onBrowser(measured.browser, measured.version)}>
              A field check found {measured.name} {measured.version} there: use that
            </button>
          )}
        </section>
      </div>
      <p className="mt-3 text-[14px] leading-[18px]">
        <b>{test.savedS < 0.05 ? 'Saves nothing' : `Saves ${fixed(test.savedS, 1)} s an opening`}</b>: {fixed(test.beforeS, 1)} s through
        the list, {fixed(test.afterS, 1)} s through the link.
      </p>
      {resource && (
        <p className="text-ink-2">
          For all who have it, in the client they use now: <LinkSaving resource={resource} />
        </p>
      )}
    </div>
  );
}
