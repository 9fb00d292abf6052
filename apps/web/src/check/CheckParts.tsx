import type { CheckGreeting } from '@underpass/contracts';
import { languages, type Language } from '@underpass/contracts/texts';
import { Mark } from '../shell/Mark.js';
import { VerdictIn } from '../ui/Verdict.js';
import type { Say } from '../ui/say.js';
import type { Phase } from './useCheck.js';
import type { headline } from './words.js';

/** A link that cannot be used, and what to do. */
export function LinkGone({ gone, say: { t } }: { gone: CheckGreeting['gone'] | undefined; say: Say }) {
  return (
    <main className="min-h-screen p-6 max-w-[640px] mx-auto">
      <p className="flex items-center gap-[9px] font-extrabold text-[17px] mb-8">
        <Mark />
        Underpass
      </p>
      <h1 className="!text-[30px] !leading-[37px]">{t(`gone.${gone ?? 'unknown'}`)}</h1>
      <p className="text-[17px] leading-7 mt-3 text-ink-2">{t('gone.text')}</p>
    </main>
  );
}

export function CheckHead({
  organisation,
  say: { t, language },
  onLanguage,
}: {
  organisation: string;
  say: Say;
  onLanguage: (language: Language) => void;
}) {
  return (
    <header className="flex justify-between items-center gap-x-4 gap-y-2 flex-wrap px-6 min-[760px]:px-12 pt-6">
      <span className="flex items-center gap-[9px] font-extrabold text-[17px]">
        <Mark />
        Underpass
      </span>
      <span className="flex items-center gap-x-4 gap-y-2 flex-wrap">
        <span className="text-[15px] text-ink-2">{t('of', { organisation })}</span>
        <select
          className="field !h-[32px] text-[15px]"
          aria-label={t('language')}
          value={language}
          onChange={(event) => onLanguage(event.target.value as Language)}
        >
          {Object.entries(languages).map(([each, name]) => (
            <option key={each} value={each} lang={each}>
              {name}
            </option>
          ))}
        </select>
      </span>
    </header>
  );
}

/** Where the check is, in large letters, and what the person has to know meanwhile. */
export function CheckWords({ phase, head, name, say: { t } }: { phase: Phase; head: ReturnType<typeof headline>; name: string; say: Say }) {
  return (
    <>
      {phase.name === 'done' && (
        <p className="text-[17px] mb-1">
          <VerdictIn verdict={head.verdict} word={t(`verdict.${head.verdict}`)} />
        </p>
      )}
      <h1 className="!text-[30px] !leading-[37px] min-[760px]:!text-[38px] min-[760px]:!leading-[46px] !font-[750] max-w-[720px]">
        {phase.name === 'done' ? head.text : t(`${phase.name}.head`, { name })}
      </h1>
      <p className="text-[17px] leading-7 mt-3 text-ink-2 max-w-[720px]">
        {phase.name === 'ready' && t('ready.text')}
        {phase.name === 'queued' && t('queued.text', { count: phase.ahead })}
        {phase.name === 'running' && t('running.text', { at: phase.at + 1, count: Math.max(5, 26 - phase.at * 5) })}
        {phase.name === 'done' && head.helps && (
          <>
            <b className="text-ink">{t('helps')}</b> {head.helps}
          </>
        )}
        {phase.name === 'broken' && t(`broken.${phase.because}`, { id: phase.id })}
      </p>
    </>
  );
}

/** The one button, and after the check who has its result. */
export function CheckButton({
  phase,
  name,
  helpDesk,
  onStart,
  onHalt,
  say: { t },
}: {
  say: Say;
  phase: Phase;
  name: string;
  helpDesk: string;
  onStart: () => void;
  onHalt: () => void;
}) {
  const button = 'min-h-[52px] px-[30px] text-[17px] font-bold rounded-[2px] border max-[759px]:w-full';
  const busy = phase.name === 'running' || phase.name === 'queued';
  return (
    <div className="mt-6 flex flex-wrap items-center gap-5">
      {busy ? (
        <button className={`${button} border-ink`} onClick={onHalt}>
          {t('stop')}
        </button>
      ) : (
        <button className={`${button} bg-tile border-tile text-paper`} onClick={onStart}>
          {phase.name === 'ready' ? t('start') : t('again')}
        </button>
      )}
      {phase.name === 'done' && (
        <span className="text-[15px] text-ink-3">
          {phase.kept ? t('kept', { helpDesk, name }) : t('not kept')}
          {!phase.fromDesk && ` ${t('not from the desk')}`}
        </span>
      )}
    </div>
  );
}
