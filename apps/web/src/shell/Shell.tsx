import { useQueryClient } from '@tanstack/react-query';
import type { Session } from '@underpass/contracts';
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ComponentType } from 'react';
import { Outlet, useNavigate } from 'react-router';
import { useSession } from '../api/session.js';
import { useAway, useEvaluating, useSessionEnds } from '../api/signals.js';
import { NoticeArea } from '../ui/Notice.js';
import { Failed, Loading } from '../ui/States.js';
import { inThousands } from '../ui/times.js';
import { Header } from './Header.js';
import { useKeys, walkRows } from './keys.js';
import { Shortcuts } from './Shortcuts.js';
import { menu } from './stages.js';
import { useLive } from './useLive.js';

// whoever is signed in waits for none of these
const ConfirmDialog = lazy(async () => ({ default: (await import('../signin/ConfirmDialog.js')).ConfirmDialog }));
const SignInAgain = lazy(async () => ({ default: (await import('../signin/SignInAgain.js')).SignInAgain }));
const AccountPage = lazy(async () => ({ default: (await import('../signin/AccountPage.js')).AccountPage }));

/** The frame of every signed-in screen. The address stays while somebody signs in, so that a deep link leads on. */
export function Shell() {
  const session = useSession();
  const was = useLastSession(session.data);
  if (session.isPending)
    return (
      <main className="p-6">
        <Away />
        <Loading what="your sign-in" />
      </main>
    );
  if (session.isError)
    return (
      <main className="p-6">
        <Failed page what="Underpass" error={session.error} onRetry={() => void session.refetch()} />
      </main>
    );
  if (!session.data && !was) return <SignInFirst />;
  return (
    <NoticeArea>
      <SignedIn mustSetUpFactor={session.data?.mustSetUpFactor ?? false} />
      <Suspense>{session.data ? <ConfirmDialog /> : was && <SignInAgain was={was} />}</Suspense>
    </NoticeArea>
  );
}

/** The page for signing in. Not by Suspense, which would show it a third of a second after it is there. */
function SignInFirst() {
  const [page, setPage] = useState<{ Page: ComponentType } | { error: unknown } | null>(null);
  useEffect(() => {
    import('../signin/SignInPage.js').then(({ SignInPage }) => setPage({ Page: SignInPage })).catch((error) => setPage({ error }));
  }, []);
  if (page === null)
    return (
      <main className="p-6">
        <Loading what="the sign-in" />
      </main>
    );
  // what cannot be fetched is told as it is of every page
  if ('error' in page) throw page.error;
  return <page.Page />;
}

/** Who was signed in last on this page, so that what is open stays when a session ends by itself. */
function useLastSession(now: Session | null | undefined): Session | null {
  const client = useQueryClient();
  const [was, setWas] = useState<Session | null>(null);
  const ends = useSessionEnds();
  useEffect(() => {
    if (now) setWas(now);
  }, [now]);
  useEffect(() => {
    if (ends > 0) void client.invalidateQueries({ queryKey: ['session'] });
  }, [ends, client]);
  return was;
}

/** While the server cannot work, said on every page: nothing is lost, and it is tried again. */
function Away() {
  const away = useAway();
  if (away === null) return null;
  return (
    <p role="status" className="bg-amber-wash border-b-[1.5px] border-amber px-6 py-1.5 no-print">
      {away}
    </p>
  );
}

/** While many crossings are evaluated again, said on every page: what is shown is as it was before. */
function Evaluating() {
  const evaluating = useEvaluating();
  if (evaluating === null) return null;
  const { done, total } = evaluating;
  return (
    <p role="status" className="bg-earth border-b border-rule px-6 py-1 flex items-center gap-4 no-print">
      <span>{inThousands(total)} crossings are being evaluated; what you see is from before</span>
      <progress className="w-[160px] h-2 accent-[var(--tile)]" aria-label="Evaluated" value={done} max={total} />
      <span className="text-ink-3">{Math.round((100 * done) / total)} %</span>
    </p>
  );
}

function SignedIn({ mustSetUpFactor }: { mustSetUpFactor: boolean }) {
  useLive();
  const navigate = useNavigate();
  const find = useRef<HTMLInputElement>(null);
  const [sheet, setSheet] = useState(false);
  const keys = useMemo(
    () => ({
      '/': () => {
        // it comes a moment after the page
        const focus = () => (find.current ? find.current.focus() : void setTimeout(focus, 40));
        focus();
      },
      '?': () => setSheet((open) => !open),
      ...Object.fromEntries(menu.map(({ key, to }) => [key, () => void navigate(to)])),
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
      <Away />
      <Evaluating />
      <main id="content" tabIndex={-1} className="outline-none max-w-[1760px] mx-auto pb-16">
        {mustSetUpFactor ? (
          <Suspense fallback={<Loading what="your account" />}>
            <AccountPage />
          </Suspense>
        ) : (
          <Outlet />
        )}
      </main>
      <Shortcuts open={sheet} onOpenChange={setSheet} />
    </>
  );
}
