import { useQuery } from '@tanstack/react-query';
import type { ComparedCrossings, Verdict as VerdictWord } from '@underpass/contracts';
import { Link } from 'react-router';
import { Failed, Loading } from '../ui/States.js';
import { Verdict } from '../ui/Verdict.js';
import { Wide } from '../ui/Wide.js';
import { CrossingChoice } from './CrossingChoice.js';
import { factText, factValue } from './factWords.js';
import { settingsQueries } from './queries.js';
import { useAddress } from '../ui/useAddress.js';

/** Two crossings, fact by fact; what of the difference each explains, most first. */
export function CompareCrossings() {
  const { search, set } = useAddress();
  const [a, b] = [search.get('a') ?? '', search.get('b') ?? ''];
  const compared = useQuery(settingsQueries.compare(a, b));
  return (
    <section aria-labelledby="compare-people" className="min-w-0">
      <h1 id="compare-people">Works for her, not for him</h1>
      <p className="text-ink-2">
        Two crossings. Each fact that is otherwise is put in place of the other’s, and everything is worked out again.
      </p>
      <div className="grid gap-2 mt-3">
        <CrossingChoice name="The one" id={a} onId={(id) => set({ a: id })} />
        <CrossingChoice name="The other" id={b} onId={(id) => set({ b: id })} />
      </div>
      {compared.isError && <Failed what="The comparison" error={compared.error} onRetry={() => void compared.refetch()} />}
      {a !== '' && b !== '' && a !== b && compared.isPending && <Loading what="every difference to be worked out" />}
      {a !== '' && a === b && <p className="text-ink-2 mt-2">That is the same crossing twice.</p>}
      {compared.data && a !== b && <Differences data={compared.data} />}
    </section>
  );
}

/** What explains less is told apart: half a percent. */
const explainsNothing = 0.005;

function Facts({ rows, label }: { rows: ComparedCrossings['differences']; label: string }) {
  if (rows.length === 0) return null;
  return (
    <Wide label={label} className="mt-2">
      <table className="w-full">
        <thead className="head">
          <tr>
            <th scope="col">Fact</th>
            <th scope="col">the one</th>
            <th scope="col">the other</th>
            <th scope="col" className="text-right">
              explains
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((each) => (
            <tr key={each.fact} className="border-b border-rule align-top">
              <th scope="row" className="text-left font-semibold py-1 pr-3">
                {factText(each.fact)}
              </th>
              <td className="py-1 pr-3 break-words max-w-[170px]">{factValue(each.fact, each.a)}</td>
              <td className="py-1 pr-3 break-words max-w-[170px]">{factValue(each.fact, each.b)}</td>
              <td className="py-1 text-right whitespace-nowrap">
                <span
                  className="inline-block h-[8px] bg-tile align-middle mr-2"
                  style={{ width: `${Math.round(each.explains * 48)}px` }}
                  aria-hidden
                />
                {Math.round(each.explains * 100)} %
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

function Differences({ data }: { data: ComparedCrossings }) {
  const { a, b, differences } = data;
  const idle = differences.filter(({ explains }) => explains <= explainsNothing);
  return (
    <div className="mt-4">
      <ul>
        {[a, b].map((side) => (
          <li key={side.id} className="py-0.5">
            <Verdict verdict={side.verdict as VerdictWord} />{' '}
            <Link className="link" to={`/crossings/${encodeURIComponent(side.id)}`}>
              {side.text}
            </Link>
          </li>
        ))}
      </ul>
      <p className="text-[15px] leading-5 mt-2" role="status">
        {differences[0] && differences[0].explains > 0.005
          ? `${factText(differences[0].fact)} explains most: ${Math.round(differences[0].explains * 100)} % of the difference.`
          : differences.length === 0
            ? 'Nothing is otherwise between them.'
            : 'No single fact explains the difference: it takes several together.'}
      </p>
      <Facts rows={differences.filter(({ explains }) => explains > explainsNothing)} label="Differences that explain something" />
      {idle.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer min-h-[24px] font-semibold">
            {idle.length} {idle.length === 1 ? 'other difference explains' : 'other differences explain'} nothing
          </summary>
          <Facts rows={idle} label="Differences that explain nothing" />
        </details>
      )}
    </div>
  );
}
