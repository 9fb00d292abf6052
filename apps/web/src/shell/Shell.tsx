import { useMemo, useRef, useState } from 'react';
import { Outlet, useNavigate } from 'react-router';
import { useLive } from '../api/live.js';
import { useSession } from '../api/session.js';
import { SignInPage } from '../session/SignInPage.js';
import { NoticeArea } from '../ui/Notice.js';
import { Failed, Loading } from '../ui/States.js';
import { Header } from './Header.js';
import { useKeys, walkRows } from './keys.js';
import { Shortcuts } from './Shortcuts.js';

/** The frame of every signed-in screen. The address stays while somebody signs in, so that a deep link leads on. */
export function Shell() {
  const session = useSession();
  if (session.isPending)
    return (
      <main className="p-6">
        <Loading what="your sign-in" />
      </main>
    );
  if (session.isError)
    return (
      <main className="p-6">
        <Failed what="Underpass" error={session.error} onRetry={() => void session.refetch()} />
      </main>
    );
  if (!session.data) return <SignInPage />;
  return (
    <NoticeArea>
      <SignedIn />
    </NoticeArea>
  );
}

function SignedIn() {
  useLive();
  const navigate = useNavigate();
  const find = useRef<HTMLInputElement>(null);
  const [sheet, setSheet] = useState(false);
  const keys = useMemo(
    () => ({
      '/': () => find.current?.focus(),
      '?': () => setSheet((open) => !open),
      'g b': () => void navigate('/board'),
      'g c': () => void navigate('/crossings'),
      'g a': () => void navigate('/access'),
      'g e': () => void navigate('/estate'),
      j: () => walkRows(1),
      k: () => walkRows(-1),
    }),
    [navigate],
  );
  useKeys(keys);
  return (
    <>
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        Go to the content
      </a>
      <Header find={find} onShortcuts={() => setSheet(true)} />
      <main id="content" tabIndex={-1} className="outline-none max-w-[1760px] mx-auto pb-16">
        <Outlet />
      </main>
      <Shortcuts open={sheet} onOpenChange={setSheet} />
    </>
  );
}
