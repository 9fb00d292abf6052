import { useQuery } from '@tanstack/react-query';
import type { FoundObject } from '@underpass/contracts';
import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { useSession } from '../api/session.js';
import { estateQueries } from '../estate/queries.js';
import { Combobox } from '../ui/Combobox.js';
import { usePageActions, type Action } from './actions.js';
import { buttonsOfPage } from './buttons.js';
import { foundLately, keepFound } from './recent.js';
import { actionsOfStages } from './stages.js';

/** Something to open or to do. */
interface Row {
  key: string;
  name: string;
  says: string;
  take: () => void;
}

/** Whether a name holds every word, at the beginning of one of its own. */
const fits = (name: string, words: readonly string[]): boolean => {
  const text = ` ${name.toLowerCase()}`;
  return words.every((word) => text.includes(` ${word}`));
};

/** Finds anything by name: people, endpoints, places, settings, findings, screens, and what buttons do; and opens or does it. */
export function Find({ input }: { input: React.RefObject<HTMLInputElement | null> }) {
  const [text, setText] = useState('');
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const { data: session } = useSession();
  const offered = usePageActions();
  // read once, as the finder is come to: the page stands still under it
  const [buttons, setButtons] = useState<readonly Action[]>([]);
  const onPage = [...offered, ...buttons.filter(({ name }) => !offered.some((each) => each.name === name))];
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const found = useQuery(estateQueries.found(wanted));
  const words = wanted.split(/\s+/).filter(Boolean);
  const leave = () => {
    setText('');
    setOpen(false);
    input.current?.blur();
  };
  const objectRow = (each: FoundObject): Row => ({
    key: each.path + each.id,
    name: each.name,
    says: [each.kind, each.detail].filter(Boolean).join(', '),
    take: () => {
      keepFound(each);
      void navigate(each.path);
    },
  });
  const may = ({ engineer, admin }: (typeof actionsOfStages)[number]) =>
    admin ? session?.role === 'admin' : !engineer || session?.role !== 'reader';
  const doing: Row[] =
    words.length === 0
      ? []
      : [
          ...onPage.filter(({ name }) => fits(name, words)).map(({ name, run }) => ({ key: `do ${name}`, name, says: 'here', take: run })),
          ...actionsOfStages
            .filter((each) => may(each) && fits(each.name, words))
            .map(({ name, to, exports }) => ({
              key: `go ${to} ${name}`,
              name,
              says: exports ? 'a file' : 'screen',
              take: () => void navigate(to, exports ? { state: { exports } } : {}),
            })),
        ];
  const objects = words.length === 0 ? [] : (found.data ?? []);
  const lately = foundLately();
  // what was opened lately comes first, and is all there is before anything is typed
  const recent = words.length === 0 ? lately : objects.filter(({ path }) => lately.some((each) => each.path === path));
  const others = objects.filter(({ path }) => !recent.some((each) => each.path === path));
  // what is done is meant before what it is done to, once enough of it is typed to tell
  const first = wanted.length >= 3 ? doing : [];
  const rows = [...first, ...[...recent, ...others].map(objectRow), ...doing.filter((row) => !first.includes(row))].slice(0, 24);
  return (
    <div className="self-center relative w-[230px] max-[719px]:w-auto max-[719px]:flex-1">
      <span
        className="flex items-center h-[28px] border-b border-rule-2 gap-2 focus-within:border-tile"
        onKeyDown={(event) => event.key === 'Escape' && leave()}
      >
        <Combobox
          label="Find a person, endpoint, place, screen or action"
          text={text}
          open={open && (wanted !== '' || recent.length > 0)}
          rows={rows}
          current={wanted === text.trim().toLowerCase() && !found.isPlaceholderData && (words.length === 0 || !found.isPending)}
          none={found.isFetching ? '·····' : `Nothing is called “${wanted}”`}
          keyOf={({ key }) => key}
          row={(row) => (
            <>
              <span className="flex-1 truncate font-semibold">{row.name}</span>
              <span className="text-ink-3 truncate max-w-[45%]">{row.says}</span>
            </>
          )}
          onText={(next) => {
            setText(next);
            setOpen(true);
          }}
          onOpen={(next, why) => {
            // what is typed stays for who comes back
            if (next || why === 'left') setOpen(next);
            else leave();
          }}
          onTake={(row) => {
            leave();
            row.take();
          }}
          field={{
            ref: input,
            className: 'flex-1 min-w-0 h-[26px] bg-transparent outline-none placeholder:text-ink-3',
            placeholder: 'Find a person, place, action',
            onFocus: () => {
              setButtons(buttonsOfPage());
              setOpen(true);
            },
          }}
          listClass="right-0 top-[36px] w-[min(400px,calc(100vw-32px))] max-[719px]:fixed max-[719px]:left-4 max-[719px]:right-4 max-[719px]:top-[44px] max-[719px]:w-auto z-40 max-h-[60vh]"
          rowClass="px-3 py-1 max-[719px]:py-2"
        />
        <kbd aria-hidden className="max-[719px]:hidden">
          /
        </kbd>
      </span>
    </div>
  );
}
