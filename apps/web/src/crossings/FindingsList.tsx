import { kindWords, type Bay, type Change, type Verdict } from '@underpass/contracts';
import { isEmpty, noChange, type CrossingView, type Finding } from '@underpass/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { SourceMark, type SourceWord } from '../ui/SourceMark.js';
import { verdictInk, VerdictShape, verdictWords } from '../ui/Verdict.js';

const verdictOf: Record<Finding['weight'], Verdict> = { blocked: 'blocked', limited: 'limited', unknown: 'unknown', risk: 'clear' };

/** Where the figures are told that are assumed of a bay. */
const assumedAbout: Partial<Record<Bay, string>> = {
  'Local network': '#wi-fi',
  Link: '#lines',
  Gateway: '#sign-on',
  Host: '#hosts',
  Workspace: '#sign-on',
};

/** What is wrong or at risk, dearest first; each remedy with what it would do. */
export function FindingsList({
  findings,
  together,
  chance,
  trying,
  onTry,
}: {
  findings: Finding[];
  together: CrossingView['together'];
  chance: CrossingView['chance'];
  trying: string | null;
  onTry: (change: Change, text: string | null) => void;
}) {
  const [open, setOpen] = useState<string | null>(findings[0]?.kind ?? null);
  return (
    <section aria-labelledby="findings" className="pt-3 min-w-0">
      <h2 id="findings">
        {findings.length === 1 ? '1 finding' : `${findings.length} findings`}{' '}
        <small className="font-normal text-[13px] text-ink-3 ml-2">
          {findings.length ? 'dearest first' : 'nothing is wrong or at risk'}
        </small>
      </h2>
      <ul className="mt-1">
        {findings.map((finding) => {
          const verdict = verdictOf[finding.weight];
          const word = finding.weight === 'risk' ? 'At risk' : verdictWords[verdict];
          const shown = open === finding.kind;
          return (
            <li key={finding.kind} className="border-b border-rule py-2 grid grid-cols-[98px_minmax(0,1fr)] max-[719px]:grid-cols-1">
              <span className="flex gap-1.5 items-start max-[719px]:[&>span]:flex max-[719px]:[&>span]:gap-2">
                {finding.weight === 'risk' ? <span className="w-[13px]" /> : <VerdictShape verdict={verdict} className="mt-[3px]" />}
                <span>
                  <span className="text-ink-2 block">{finding.bay}</span>
                  <b className={finding.weight === 'risk' ? 'text-ink-3' : verdictInk[verdict]}>{word}</b>
                </span>
              </span>
              <div className="min-w-0">
                <button
                  data-finding
                  data-row
                  className="w-full text-left flex gap-x-3 items-baseline max-[719px]:flex-wrap min-h-[24px]"
                  aria-expanded={shown}
                  onClick={() => setOpen(shown ? null : finding.kind)}
                >
                  <b className="text-[14px] leading-[18px] flex-1">{finding.text}</b>
                  <b className="font-semibold whitespace-nowrap">{finding.costText}</b>
                </button>
                {!shown && finding.remedies[0] && <RemedyRow remedy={finding.remedies[0]} trying={trying} onTry={onTry} brief />}
                {shown && (
                  <div className="mt-1.5">
                    <p className="text-ink-3 text-[12.5px]">Evidence, {finding.sure}</p>
                    <ul>
                      {finding.evidence.map((line) => (
                        <li key={line.text} className={`flex gap-2 items-baseline ${line.notUsed ? 'text-ink-3' : ''}`}>
                          <SourceMark source={line.source as SourceWord} />
                          <span>
                            {line.text}
                            {line.notUsed && ', not used'}
                            {line.source === 'assumed' && (
                              <>
                                {' '}
                                <Link className="link" to={`/estate/assumed${assumedAbout[finding.bay] ?? ''}`}>
                                  what is assumed
                                </Link>
                              </>
                            )}
                          </span>
                        </li>
                      ))}
                    </ul>
                    {finding.consequences.length > 0 && (
                      <p className="text-ink-2 mt-1.5">
                        <span className="text-ink-3">From the same cause:</span> {finding.consequences.join('; ')}
                      </p>
                    )}
                    {finding.remedies.length > 0 && <p className="text-ink-3 text-[12.5px] mt-2">Remedies</p>}
                    {finding.remedies.map((remedy) => (
                      <RemedyRow key={remedy.text} remedy={remedy} trying={trying} onTry={onTry} />
                    ))}
                  </div>
                )}
              </div>
            </li>
          );
        })}
      </ul>
      {chance.settles && (
        <p className="py-2 border-b border-rule">
          <b className="font-semibold">Clear by {Math.round(chance.clear * 100)} in 100 as far as is known.</b>{' '}
          <span className="text-ink-2">What would tell most: {chance.settles.fact}.</span>
        </p>
      )}
      {together.length > 0 && (
        <div className="pt-2">
          <h3 className="text-[14px]">
            Together <small className="font-normal text-[13px] text-ink-3 ml-2">no single remedy is enough</small>
          </h3>
          {together.map((remedy) => (
            <RemedyRow key={remedy.text} remedy={remedy} trying={trying} onTry={onTry} />
          ))}
        </div>
      )}
    </section>
  );
}

function RemedyRow({
  remedy,
  trying,
  onTry,
  brief = false,
}: {
  remedy: Finding['remedies'][number];
  trying: string | null;
  onTry: (change: Change, text: string | null) => void;
  brief?: boolean;
}) {
  const on = trying === remedy.text;
  return (
    <div className={`flex gap-3 items-start ${brief ? '' : 'py-1.5 border-t border-dotted border-rule first-of-type:border-0'}`}>
      <p className="flex-1 min-w-0">
        {brief ? (
          <span className="text-ink-2">
            {remedy.text}: {remedy.effectText}
          </span>
        ) : (
          <>
            <b className="font-semibold block">{remedy.text}</b>
            <span className="text-ink-2">{remedy.effectText}</span>
          </>
        )}
      </p>
      {!isEmpty(remedy.change) && (
        <button
          className={`btn btn-small no-print ${on ? 'btn-on' : ''}`}
          aria-pressed={on}
          aria-label={`Try: ${remedy.text}`}
          onClick={() => (on ? onTry(noChange, null) : onTry(remedy.change, remedy.text))}
        >
          {on ? 'Trying' : 'Try'}
        </button>
      )}
      {remedy.at && (
        <Link
          className="btn btn-small whitespace-nowrap no-print"
          to={`/estate/${remedy.at.kind}/${encodeURIComponent(remedy.at.id)}`}
          aria-label={`Open ${kindWords[remedy.at.kind].one}: ${remedy.text}`}
        >
          Open {kindWords[remedy.at.kind].one.toLowerCase()}
        </Link>
      )}
    </div>
  );
}
