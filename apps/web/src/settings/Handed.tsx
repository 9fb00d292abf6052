import type { ValueCosts } from '@underpass/contracts';

const got = { nothing: 'nothing', secret: '••••••', ticket: 'a ticket' } as const;
/** Settings of which it depends what is handed on. */
export const isHandingOn = (key: string): boolean =>
  key.startsWith('signon.') || ['session.singleSignOn', 'session.tapCard', 'security.savedPasswords'].includes(key);

/** What reaches gateway, broker and host of somebody's name and secret: worked out, the secret masked; and where they type again. */
export function Handed({ steps, who }: { steps: ValueCosts['handed']; who: string }) {
  if (steps.length === 0) return null;
  const again = steps.filter(({ because }) => because !== null);
  return (
    <section aria-label="What is handed on" className="mt-4 border-t border-rule pt-3">
      <h2>
        What is handed on{' '}
        <small className="font-normal text-[13px] text-ink-3 ml-2">
          {again.length === 0
            ? `${who} types nothing twice`
            : `${who} types again ${again.length === 1 ? 'once' : `${again.length} times`}`}
        </small>
      </h2>
      <ol className="mt-1">
        {steps.map(({ step, name, gets, typed, because }) => (
          <li key={step} className="border-b border-rule py-1 grid grid-cols-[84px_minmax(0,1fr)] gap-x-3">
            <span className="text-ink-3">to the {step}</span>
            <span>
              <span className="mono">{name || 'no name'}</span>, {got[gets]}
              {typed && (
                <b className={`font-semibold ${because ? 'text-amber' : ''}`}>{because ? `; typed again: ${because}` : '; typed here'}</b>
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
