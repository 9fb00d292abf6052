import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { Mark } from '../shell/Mark.js';
import { SignInForm } from './SignInForm.js';
import { signinQueries } from './queries.js';

/** What became of a way to the organisation's sign-in and back. */
const outcomes: Record<string, string> = {
  refused: 'Your organisation’s sign-in was not completed. Try again.',
  'no-role': 'Your organisation’s sign-in gives you no role here. Ask who manages it.',
  'in-use': 'Your address signs in with a password here. Use it, or ask an administrator to change that.',
  away: 'Your organisation’s sign-in does not answer. Try again in a minute.',
};

/** Sign-in, on the ground line. */
export function SignInPage() {
  const client = useQueryClient();
  const [search] = useSearchParams();
  const options = useQuery(signinQueries.options());
  const outcome = outcomes[search.get('sign-in') ?? ''];
  return (
    <main className="min-h-screen grid grid-rows-[1fr_auto_1fr]">
      <div />
      <div className="w-[400px] max-w-[92vw] mx-auto pb-10">
        <p className="flex items-center gap-[9px] font-extrabold text-[17px] mb-8">
          <Mark />
          Underpass
        </p>
        <h1>Sign in</h1>
        <p className="text-ink-2 mt-1 mb-6">See what happens between a desk and its desktop, and change it before it hurts.</p>
        {outcome && (
          <p role="alert" className="text-brick mb-4">
            {outcome}
          </p>
        )}
        {options.data?.provider && (
          <div className="mb-6 pb-6 border-b border-rule grid grid-cols-[88px_1fr]">
            <a className="btn btn-primary col-start-2 justify-self-start" href="/api/session/provider">
              Sign in with {options.data.provider}
            </a>
          </div>
        )}
        <SignInForm second={Boolean(options.data?.provider)} onDone={(session) => client.setQueryData(['session'], session)} />
      </div>
      <div className="bg-earth border-t-[1.5px] border-ink relative">
        <svg className="absolute inset-x-0 top-0 w-full h-16" aria-hidden preserveAspectRatio="none">
          <rect x="0" y="26" width="100%" height="24" fill="var(--bore)" />
        </svg>
      </div>
    </main>
  );
}
