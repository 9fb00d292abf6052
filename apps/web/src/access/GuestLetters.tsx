import { useQueries, useQuery } from '@tanstack/react-query';
import type { GuestRow, Organisation, Portal } from '@underpass/contracts';
import { languages, type Language } from '@underpass/contracts/texts';
import { useState } from 'react';
import { estateQueries } from '../estate/queries.js';
import { Dialog } from '../ui/Dialog.js';
import { useNotice } from '../ui/Notice.js';
import { speak, type Say } from '../ui/say.js';
import { Loading } from '../ui/States.js';
import { accessQueries } from './queries.js';

/** The portal by which most of what a person sees is reached, by its address. */
const portalOf = (chains: readonly { chain: readonly { kind: string; id: string }[] }[], portals: readonly Portal[]): string => {
  const counts = new Map<string, number>();
  for (const { chain } of chains) for (const { kind, id } of chain) if (kind === 'portal') counts.set(id, (counts.get(id) ?? 0) + 1);
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return portals.find(({ id }) => id === most?.[0])?.address ?? '';
};

/** The letter to one guest: what for, where and with what to sign in, until when, and whom to ask. */
export function letterOf(guest: GuestRow, organisation: string, portal: string, { t, day, language }: Say): string {
  return t('letter.text', {
    name: guest.name,
    organisation,
    resources: new Intl.ListFormat(language).format(guest.reaches),
    portal: portal ? `https://${portal}` : '…',
    home: guest.organisation ?? '…',
    until: guest.endsOn ? day(guest.endsOn) : '…',
    owner: guest.owner?.name ?? '…',
  });
}

/** Letters to guests in a language of theirs, to be copied; nothing is sent from here. */
export function GuestLetters({ guests, onClose }: { guests: readonly GuestRow[]; onClose: () => void }) {
  const [language, setLanguage] = useState<Language>('en');
  const notice = useNotice();
  const { data: say } = useQuery({
    queryKey: ['say', language],
    queryFn: () => speak(language),
    staleTime: Infinity,
    placeholderData: (old) => old,
  });
  const organisation = useQuery(estateQueries.one('organisation', 'organisation'));
  const portals = useQuery(estateQueries.pick('portal', ''));
  const people = useQueries({ queries: guests.map(({ id }) => accessQueries.person(id)) });
  const ready = say && organisation.data && portals.data && people.every(({ data }) => data);
  const letters = ready
    ? guests.map((guest, i) =>
        letterOf(
          guest,
          (organisation.data.object as Partial<Organisation>).name ?? '',
          portalOf(people[i]?.data?.after ?? [], portals.data.rows as unknown as Portal[]),
          say,
        ),
      )
    : [];
  const copy = () =>
    navigator.clipboard.writeText(letters.join('\n\n———\n\n')).then(
      () => notice({ text: letters.length === 1 ? 'The letter is copied.' : `${letters.length} letters are copied.` }),
      () => notice({ text: 'The browser does not let this page copy. Select the text instead.' }),
    );
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={guests.length === 1 ? `Letter to ${guests[0]?.name}` : `Letters to ${guests.length} guests`}
      description="To be copied into a message; nothing is sent from here. What is not recorded stands as …"
      wide
    >
      <div className="flex gap-3 items-center flex-wrap">
        <label className="flex gap-2 items-center">
          In
          <select className="field" aria-label="Language" value={language} onChange={({ target }) => setLanguage(target.value as Language)}>
            {Object.entries(languages).map(([each, name]) => (
              <option key={each} value={each}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <span className="flex-1" />
        <button className="btn btn-primary" disabled={!ready} onClick={() => void copy()}>
          Copy {guests.length === 1 ? 'it' : 'them all'}
        </button>
      </div>
      {!ready && <Loading what="the letters" />}
      {letters.map((letter, i) => (
        <p key={guests[i]?.id} lang={language} className="whitespace-pre-line border-t border-rule mt-3 pt-3">
          {letter}
        </p>
      ))}
    </Dialog>
  );
}
