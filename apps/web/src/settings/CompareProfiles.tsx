import { definitionOf } from '@underpass/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { useAction } from '../ui/useAction.js';
import { Wide } from '../ui/Wide.js';
import { DraftImpact } from './DraftImpact.js';
import { ProfileSide, useSide, type SideFile } from './ProfileSide.js';
import { differencesOf, madeAs, whoseOf, type SideProfile, type Whose } from './profileSide.js';
import { valueText } from './valueWords.js';
import { useAddress } from '../ui/useAddress.js';

/** One side as the address and the files that were read say. */
function useChosen(name: 'first' | 'second') {
  const { search, set } = useAddress();
  const [file, setFile] = useState<SideFile | null>(null);
  const whose = file?.side ? null : whoseOf(search.get(name));
  const day = search.get(`${name}Day`) ?? '';
  // the end of today is not gone by: it is now
  const loaded = useSide(whose, day && day < new Date().toISOString().slice(0, 10) ? day : null);
  return {
    side: file?.side ?? loaded.side,
    row: {
      ...{ whose, day, loaded, file },
      onWhose: (next: Whose | null) => {
        setFile(null);
        set({ [name]: next && `${next.kind}/${next.id}` });
      },
      onDay: (next: string) => set({ [`${name}Day`]: next }),
      onFile: (next: SideFile) => {
        setFile(next);
        if (next.side) set({ [name]: null });
      },
    },
  };
}

/** Two profiles, setting by setting, only what differs: of people, endpoints, locations, dates, or of a file; and what it would do to make one as the other. */
export function CompareProfiles() {
  const [first, second] = [useChosen('first'), useChosen('second')];
  const both = first.side && second.side ? ([first.side, second.side] as const) : null;
  const found = both && differencesOf(...both);
  return (
    <section aria-labelledby="compare-profiles" className="min-w-0">
      <h2 id="compare-profiles" className="text-[20px] leading-[26px]">
        Settings beside each other
      </h2>
      <p className="text-ink-2">Of two people, endpoints or locations, of one on two dates, or of a file. Only what differs is shown.</p>
      <ProfileSide name="First" {...first.row} />
      <ProfileSide name="Second" {...second.row} />
      {both && found && (
        <div className="mt-4">
          <p role="status" className="text-[15px] leading-5">
            {found.rows.length === 0
              ? 'They are the same.'
              : `${found.rows.length} ${found.rows.length === 1 ? 'setting is' : 'settings are'} otherwise.`}{' '}
            {found.unnamed > 0 && <span className="text-ink-2">Of {found.unnamed} more the file says nothing: they stay as they are.</span>}
          </p>
          {found.rows.length > 0 && (
            <>
              <Differences rows={found.rows} names={[both[0].name, both[1].name]} />
              <AsTheOther first={both[0]} second={both[1]} key={`${both[0].name} ${both[1].name}`} />
            </>
          )}
        </div>
      )}
    </section>
  );
}

function Differences({ rows, names }: { rows: ReturnType<typeof differencesOf>['rows']; names: readonly [string, string] }) {
  return (
    <Wide label="Settings that differ" className="mt-2">
      <table className="w-full">
        <thead className="head">
          <tr>
            <th scope="col">Setting</th>
            <th scope="col" className="pr-3">
              {names[0]}
            </th>
            <th scope="col">{names[1]}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, a, b }) => (
            <tr key={key} className="border-b border-rule">
              <th scope="row" className="text-left font-semibold py-1 pr-3">
                {definitionOf(key)?.label ?? key} <span className="mono font-normal text-[12px] text-ink-3">{key}</span>
              </th>
              <td className="pr-3">{valueText(key, a)}</td>
              <td>{valueText(key, b)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

/** What it would do to everybody to make one side as the other; as a draft it is applied from its own page. */
function AsTheOther({ first, second }: { first: SideProfile; second: SideProfile }) {
  const canEdit = useCanEdit();
  const { keep } = useKeepDraft();
  const navigate = useNavigate();
  const { busy, fault, run } = useAction();
  const [shown, setShown] = useState(false);
  // a day that is gone by and a file cannot be made otherwise
  const [one, other] = first.now ? [first, second] : [second, first];
  if (!one.now) return <p className="text-ink-2 mt-3">To see what it does, choose somebody as they are today on one side.</p>;
  const { change, stays } = madeAs(one.now, other);
  if (change.patches.length === 0) return <p className="text-ink-2 mt-3">Nothing of it is a setting that can be made so at {one.name}.</p>;
  const name = `${one.name} as ${other.name}`;
  return (
    <section aria-label={`If it were: ${name}`} className="mt-3">
      {stays.length > 0 && (
        <p className="text-amber">
          {stays.map((key) => definitionOf(key)?.label).join(', ')}: would stay, since a lock, a nearer layer or a stricter value holds{' '}
          {stays.length === 1 ? 'it' : 'them'}.
        </p>
      )}
      <p className="flex flex-wrap gap-2 mt-2">
        {!shown && (
          <button className="btn" onClick={() => setShown(true)}>
            See what it does: {name}
          </button>
        )}
        {canEdit && (
          <button
            className="btn"
            disabled={busy}
            onClick={() => void run(async () => void (await navigate(`/settings/drafts/${(await keep(name, { change })).id}`)))}
          >
            Make a draft: {name}
          </button>
        )}
      </p>
      {fault && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
      {shown && (
        <div className="mt-3 max-w-[340px]">
          <h3 className="font-bold">What it does to everybody</h3>
          <DraftImpact change={change} />
        </div>
      )}
    </section>
  );
}
