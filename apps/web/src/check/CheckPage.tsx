import { useQuery } from '@tanstack/react-query';
import type { CheckGreeting } from '@underpass/contracts';
import type { Language } from '@underpass/contracts/texts';
import { useParams } from 'react-router';
import { call } from '../api/client.js';
import { CheckDrawing } from './CheckDrawing.js';
import { CheckButton, CheckHead, CheckWords, LinkGone } from './CheckParts.js';
import type { Say } from '../ui/say.js';
import { useCheck } from './useCheck.js';
import { useLanguage } from './useLanguage.js';
import { headline, tell } from './words.js';

/** The field check: a page for people who are no engineers. One button; it says what it does not look at. */
export function CheckPage() {
  const { token = '' } = useParams();
  const greeting = useQuery({
    queryKey: ['check', token],
    queryFn: () => call<CheckGreeting>(`check/${token}`),
    staleTime: Infinity,
    refetchOnReconnect: false,
  });
  const { say, choose } = useLanguage();
  if (greeting.isPending || !say) return <main className="p-6 text-ink-3">·····</main>;
  if (!greeting.data || greeting.data.gone) return <LinkGone gone={greeting.data?.gone} say={say} />;
  return <Check token={token} greeting={greeting.data} say={say} onLanguage={choose} />;
}

function Check({
  token,
  greeting,
  say,
  onLanguage,
}: {
  token: string;
  greeting: CheckGreeting;
  say: Say;
  onLanguage: (language: Language) => void;
}) {
  const { phase, figures, canvas, start, halt } = useCheck(token);
  const told = tell(figures, greeting.wanted, say);
  const at = phase.name === 'running' ? phase.at : -1;
  const name = greeting.firstName ? `, ${greeting.firstName}` : '';
  return (
    <main className="min-h-screen flex flex-col">
      <CheckHead organisation={greeting.organisation} say={say} onLanguage={onLanguage} />
      <section
        className="px-6 min-[760px]:px-0 w-full max-w-[880px] mx-auto pt-10 min-[760px]:pt-[68px] pb-8 min-h-[330px]"
        aria-live="polite"
      >
        <CheckWords phase={phase} head={headline(told, greeting.home, greeting.wanted.calls, say)} name={name} say={say} />
        <CheckButton
          phase={phase}
          name={name}
          say={say}
          helpDesk={greeting.helpDesk ?? say.t('help desk')}
          onStart={() => void start()}
          onHalt={halt}
        />
      </section>
      <div className="flex-1 flex flex-col mt-auto">
        <CheckDrawing told={told} at={at} home={greeting.home} place={greeting.place ?? ''} say={say} />
        <div className="bg-earth flex-1 px-6 min-[760px]:px-0 pb-8 pt-4">
          <p className="max-w-[880px] mx-auto text-[14px] leading-5 text-ink-2">{say.t('nothing installed')}</p>
        </div>
      </div>
      <canvas ref={canvas} width="320" height="180" aria-hidden className="fixed -left-[9999px] top-0" />
    </main>
  );
}
