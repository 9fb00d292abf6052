import { zodResolver } from '@hookform/resolvers/zod';
import { FactorRequest, type FactorOffer, type OwnAccount, type SpareCodes } from '@underpass/contracts';
import { useState } from 'react';
import { call } from '../api/client.js';
import { Beneath } from '../ui/form/Beneath.js';
import { useSent } from '../ui/form/useSent.js';
import { useAction } from '../ui/useAction.js';

/** The second factor: scanned, tried with a first code, with spare codes to print. */
export function FactorSection({ account, throughProvider }: { account: OwnAccount; throughProvider: boolean }) {
  const [offer, setOffer] = useState<FactorOffer | null>(null);
  const [codes, setCodes] = useState<string[] | null>(null);
  const { fault, run } = useAction();
  const begin = () => run(async () => setOffer(await call<FactorOffer>('account/factor/offer', 'POST')));
  const renew = () => run(async () => setCodes((await call<SpareCodes>('account/factor/spare-codes', 'POST')).codes));
  const remove = () =>
    run(async () => {
      await call('account/factor', 'DELETE');
      setCodes(null);
      return { text: 'Your second factor is removed. Signing in asks for the password alone.' };
    });
  return (
    <section aria-labelledby="factor-title" className="mt-4 border-t-[1.5px] border-ink pt-3">
      <h2 id="factor-title">Second factor</h2>
      {throughProvider ? (
        <p className="text-ink-2 mt-1">You sign in through your organisation, which asks for its own.</p>
      ) : account.factor ? (
        <>
          <p className="text-ink-2 mt-1">
            Signing in asks for a code of your authenticator. {account.spareCodes} of 10 spare codes are left.
          </p>
          <div className="flex gap-3 mt-2">
            <button className="btn" onClick={() => void renew()}>
              Make new spare codes
            </button>
            {!account.factorNeeded && (
              <button className="btn" onClick={() => void remove()}>
                Remove the second factor
              </button>
            )}
          </div>
        </>
      ) : offer ? (
        <Offer
          offer={offer}
          onUsed={(spare) => {
            setCodes(spare);
            setOffer(null);
          }}
          onLeave={() => setOffer(null)}
        />
      ) : (
        <>
          <p className="text-ink-2 mt-1">
            Signing in asks for the password alone. A code from a device of yours makes a stolen password useless.
          </p>
          <button className={`btn mt-2 ${account.factorNeeded ? 'btn-primary' : ''}`} onClick={() => void begin()}>
            Set up a second factor
          </button>
        </>
      )}
      <p role="alert" className="text-brick mt-2 empty:hidden">
        {fault}
      </p>
      {codes && <Spare codes={codes} onDone={() => setCodes(null)} />}
    </section>
  );
}

/** A secret to scan or type, tried with a first code. */
function Offer({ offer, onUsed, onLeave }: { offer: FactorOffer; onUsed: (spare: string[]) => void; onLeave: () => void }) {
  const form = useSent({ defaultValues: { secret: offer.secret, code: '' }, resolver: zodResolver(FactorRequest) }, async (wanted) =>
    onUsed((await call<SpareCodes>('account/factor', 'PUT', wanted)).codes),
  );
  const fault = form.faultOf('code') ?? form.fault ?? undefined;
  return (
    <div className="grid grid-cols-[auto_1fr] gap-6 mt-2 items-start">
      <div
        className="w-[168px] h-[168px] bg-[#fff] border border-rule-2 [&_svg]:w-full [&_svg]:h-full"
        role="img"
        aria-label="Code to scan with an authenticator"
        dangerouslySetInnerHTML={{ __html: offer.qr }}
      />
      <form noValidate onSubmit={(event) => void form.send()(event)}>
        <p>Scan this with an authenticator, or type its key:</p>
        <p className="mono mt-1 break-all max-w-[420px]">{offer.secret.match(/.{1,4}/g)?.join(' ')}</p>
        <label htmlFor="first-code" className="block mt-3">
          Code it shows now
        </label>
        <input
          id="first-code"
          className="field mono w-[140px] mt-1"
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
          aria-invalid={fault !== undefined}
          aria-describedby="factor-fault"
          {...form.register('code')}
        />
        <Beneath id="factor-fault" fault={fault} />
        <div className="flex gap-3 mt-3">
          <button className="btn btn-primary">Use it from now on</button>
          <button type="button" className="btn" onClick={onLeave}>
            Leave it
          </button>
        </div>
      </form>
    </div>
  );
}

/** Spare codes, shown once, to print. */
function Spare({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  return (
    <div className="mt-3 border-l-[5.5px] border-tile pl-4" role="status">
      <p className="font-bold">Your spare codes, shown this once. Each is good for one sign-in without the device.</p>
      <ol className="mono grid grid-cols-[repeat(5,max-content)] gap-x-8 gap-y-1 mt-2">
        {codes.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ol>
      <div className="flex gap-3 mt-3 no-print">
        <button className="btn" onClick={() => print()}>
          Print them
        </button>
        <button className="btn" onClick={onDone}>
          I have them
        </button>
      </div>
    </div>
  );
}
