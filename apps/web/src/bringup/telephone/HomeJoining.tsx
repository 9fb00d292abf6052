import { homeJoining } from '@underpass/core';
import { useState } from 'react';
import { useTyped } from '../../ui/useTyped.js';

/** Somebody at home is led through joining their own Wi-Fi, a sentence at a time; its key is theirs, and nobody asks for it. */
export function HomeJoining({ endpoint, thin }: { endpoint: string; thin: boolean }) {
  const steps = homeJoining(thin);
  const [at, setAt] = useTyped(`joining.${endpoint}`, 0);
  const [help, setHelp] = useState<string | null>(null);
  const step = steps[at];
  const go = (to: number) => {
    setHelp(null);
    setAt(to);
  };
  return (
    <section aria-labelledby="led" className="mt-4 max-w-[760px]">
      <p className="text-ink-3">{step ? `Step ${at + 1} of ${steps.length}` : `All ${steps.length} steps are done`}</p>
      <h1 id="led" aria-live="polite" className="mt-1 text-[30px] leading-[37px] font-[750] max-w-[34ch]">
        {step?.say ?? 'It has joined. Now it starts as it would anywhere.'}
      </h1>
      {help && (
        <p role="status" className="mt-4 text-[21px] leading-[28px] font-[500] max-w-[40ch] border-l-[5.5px] border-bore pl-3">
          {help}
        </p>
      )}
      {step && (
        <div className="mt-5 flex flex-col items-start gap-2 max-w-[560px]">
          <button
            className="btn btn-primary justify-start h-auto min-h-[52px] w-full text-left text-[18px] px-4"
            onClick={() => go(at + 1)}
          >
            {at === steps.length - 1 ? 'Yes: it has joined' : 'Done, the next'}
          </button>
          {step.stuck.map(({ what, help: then }) => (
            <button
              key={what}
              className="btn justify-start h-auto min-h-[52px] w-full text-left text-[18px] leading-[24px] px-4 py-2 whitespace-normal"
              aria-pressed={help === then}
              onClick={() => setHelp(then)}
            >
              {what}
            </button>
          ))}
        </div>
      )}
      {at > 0 && (
        <p className="mt-5 flex gap-4">
          <button className="link min-h-[24px]" onClick={() => go(at - 1)}>
            One step back
          </button>
          <button className="link min-h-[24px]" onClick={() => go(0)}>
            Begin anew
          </button>
        </p>
      )}
    </section>
  );
}
