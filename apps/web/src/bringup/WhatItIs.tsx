import type { Applied, BringupBoot } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useAction } from '../ui/useAction.js';
import { moment } from '../ui/times.js';
import { causeSays, seconds, stepWords } from './words.js';

/** What stops a device, what mends it and for how many, and how to tell it apart by telephone. */
export function WhatItIs({ boot }: { boot: BringupBoot }) {
  const { broken, notes, firmware, totalMs, like, reported } = boot;
  return (
    <>
      <h2>What it is</h2>
      {broken ? (
        <p className="mt-1">
          {broken.alike === 1 && 'One more of this place stops for the same reason.'}
          {broken.alike > 1 && `${broken.alike} more of this place stop for the same reason.`}
          {broken.alike === 0 &&
            (like?.samePlace ? 'Others of this place start: it is this device alone.' : 'No other of its class stands here and starts.')}
        </p>
      ) : (
        <p className="mt-1">Nothing stops it: its sign-in screen stands after {seconds(totalMs)}.</p>
      )}
      {reported && <Reported reported={reported} onPaper={broken?.step ?? null} />}
      {notes.map(({ text }) => (
        <p key={text} className="mt-2 text-amber">
          {text}
        </p>
      ))}
      {firmware?.does === 'up' && <p className="mt-2 text-ink-2">It installs {firmware.version} first.</p>}
      {broken && <Remedy broken={broken} place={boot.location.name} />}
      {broken && <OnTheTelephone key={boot.endpoint} broken={broken} />}
      <p className="mt-5 flex flex-col items-start">
        <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/all/telephone/${encodeURIComponent(boot.endpoint)}`}>
          Lead somebody by telephone
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/all/desk/${encodeURIComponent(boot.endpoint)}`}>
          Screens at its desk
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to={`/bringup/all/images?device=${encodeURIComponent(boot.endpoint)}`}>
          Plan a card for it
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to={`/estate/endpoint/${encodeURIComponent(boot.endpoint)}`}>
          Open {boot.endpoint}
        </Link>
      </p>
    </>
  );
}

/** What the device itself told, and whether that is what was worked out for it. */
function Reported({ reported, onPaper }: { reported: NonNullable<BringupBoot['reported']>; onPaper: string | null }) {
  const { at, brokenStep, detail } = reported;
  const told = brokenStep === null ? `it reached its sign-in screen: ${detail}` : `it stopped at “${stepWords(brokenStep)}”: ${detail}`;
  return (
    <p className="mt-2 border-t border-rule pt-2">
      <span className="text-ink-3">{moment(at)}, as the device told:</span> {told}
      {brokenStep !== onPaper && (
        <span className="text-amber block">
          That is another than worked out: something was changed since, or the estate does not know all of it.
        </span>
      )}
    </p>
  );
}

type Broken = NonNullable<BringupBoot['broken']>;

function Remedy({ broken: { mend, remedy }, place }: { broken: Broken; place: string }) {
  const canEdit = useCanEdit();
  const { busy, fault, run } = useAction();
  const apply = (change: NonNullable<Broken['remedy']>['change']) =>
    run(async () => {
      const summary = `${mend.replace(/\.$/, '')} (${place})`.slice(0, 300);
      const applied = await call<Applied>('changes', 'POST', { change, summary });
      return { text: `Noted as done: ${summary}.`, applied, takenBack: `Taken back: ${summary}.` };
    });
  return (
    <div className="border-t border-rule mt-3 pt-3">
      <p className="font-bold">{mend}</p>
      {remedy && (
        <>
          <p className="text-ink-2">
            {remedy.afterMs !== null
              ? `Then it reaches the sign-in after ${seconds(remedy.afterMs)}`
              : 'Then it gets further, and something else stops it'}
            {remedy.starts > 1 && `, and ${remedy.starts - 1} more of this place too`}.
          </p>
          {canEdit && (
            <button className="btn mt-2" disabled={busy} onClick={() => void apply(remedy.change)}>
              It is done: note it in the estate
            </button>
          )}
        </>
      )}
      {fault && (
        <p role="alert" className="text-brick mt-2">
          {fault}
        </p>
      )}
    </div>
  );
}

function OnTheTelephone({ broken: { ask, shows, cause, step } }: { broken: Broken }) {
  const [answer, setAnswer] = useState<'here' | 'there' | null>(null);
  return (
    <section aria-labelledby="telephone" className="mt-5">
      <h2 id="telephone">On the telephone</h2>
      <p className="border-t border-rule pt-2 mt-1 text-ink-2">
        The screen shows “{shows}”. To tell “{stepWords(step)}” apart from what looks most like it:
      </p>
      <p className="font-bold mt-2">“{ask.question}”</p>
      <div className="flex flex-wrap gap-2 mt-2">
        {(['here', 'there'] as const).map((key) => (
          <button
            key={key}
            className={`btn text-left h-auto py-1.5 whitespace-normal ${answer === key ? 'btn-primary' : ''}`}
            aria-pressed={answer === key}
            onClick={() => setAnswer(key)}
          >
            {ask[key]}
          </button>
        ))}
      </div>
      <p role="status" className="mt-2">
        {answer === 'here' && `It is this: ${cause}`}
        {answer === 'there' && `Rather: ${causeSays(ask.alike)}`}
      </p>
    </section>
  );
}
