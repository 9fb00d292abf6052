import { kindOrder, kindWords } from '@underpass/contracts';
import { slipsBetween } from '@underpass/core';
import { Link } from 'react-router';

/** An address that names no kind: the nearest ones are offered. @param props.page whether this is the heading of the page */
export function NoSuchKind({ word, page }: { word: string; page?: boolean }) {
  const Heading = page ? 'h1' : 'h2';
  const wanted = word.toLowerCase().slice(0, 40);
  const near = kindOrder
    .map((kind) => ({
      kind,
      far: Math.min(...[kind, kindWords[kind].one, kindWords[kind].many].map((each) => slipsBetween(wanted, each.toLowerCase()))),
    }))
    .sort((a, b) => a.far - b.far)
    .filter(({ far }, i) => i === 0 || far <= 2)
    .slice(0, 3);
  return (
    <div className="border-t-[1.5px] border-ink pt-3">
      <Heading>There is no kind “{word.slice(0, 60)}”</Heading>
      <p className="text-ink-2 mt-1">
        Did you mean{' '}
        {near.map(({ kind }, i) => (
          <span key={kind}>
            {i > 0 && ' or '}
            <Link className="link" to={`/estate/${kind}`}>
              {kindWords[kind].many}
            </Link>
          </span>
        ))}
        ?
      </p>
    </div>
  );
}
