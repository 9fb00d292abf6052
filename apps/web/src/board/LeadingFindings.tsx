import type { Verdict } from '@underpass/contracts';
import type { LeadingFinding } from '@underpass/core';
import { Link } from 'react-router';
import { query } from '../api/client.js';
import { pathTo } from '../crossings/changeLink.js';
import { Arrow } from '../ui/Arrow.js';
import { PeopleBar } from '../ui/PeopleBar.js';
import { verdictInk, VerdictShape } from '../ui/Verdict.js';

const verdictOf: Record<LeadingFinding['weight'], Verdict> = { blocked: 'blocked', limited: 'limited', unknown: 'unknown', risk: 'clear' };

/** What costs most, how many it concerns, and what its best remedy does for them. */
export function LeadingFindings({ findings }: { findings: LeadingFinding[] }) {
  const most = Math.max(1, ...findings.map((finding) => finding.people));
  return (
    <section aria-labelledby="leading" className="pt-[15px] min-w-0">
      <h2 id="leading" className="leading-[26px]">
        Leading findings <small className="font-normal text-[13px] text-ink-3 ml-2">by what they cost</small>
      </h2>
      <ol className="mt-1.5 border-t-[1.5px] border-ink">
        {findings.map((finding) => {
          const verdict = verdictOf[finding.weight];
          return (
            <li key={`${finding.kind}|${finding.area}`} className="grid grid-cols-[46px_1fr] py-[9px] border-b border-rule">
              <span className={`text-[20px] leading-[21px] font-bold tracking-[-0.02em] ${verdictInk[verdict]}`}>
                {finding.people}
                <span className="sr-only"> people</span>
                <VerdictShape verdict={verdict} named className="!block mt-1" />
              </span>
              <span className="min-w-0">
                <Link
                  data-row
                  to={`/crossings${query({ kind: finding.kind, area: finding.area })}`}
                  className="text-[14px] leading-[18px] font-bold block hover:underline"
                >
                  {finding.text}
                </Link>
                <span className="text-[12.5px] leading-4 text-ink-3 block">
                  {finding.area}, {finding.bay}
                </span>
                {finding.remedy && (
                  <>
                    <Link
                      to={
                        pathTo(finding.example, finding.remedy.change, finding.remedy.named) ??
                        `/crossings/${encodeURIComponent(finding.example)}`
                      }
                      className="link leading-[18px] mt-1 block"
                    >
                      {finding.remedy.text}
                    </Link>
                    <span className="text-[12.5px] leading-4 text-ink-2 block">{finding.remedy.effect}</span>
                    <span className="flex items-center gap-1 mt-1.5">
                      <PeopleBar counts={finding.before} perPerson={60 / most} height={9} />
                      <Arrow />
                      <PeopleBar counts={finding.after} perPerson={60 / most} height={9} />
                    </span>
                  </>
                )}
              </span>
            </li>
          );
        })}
      </ol>
      {findings.length === 0 && <p className="py-3 text-ink-2">Nothing here costs anybody anything.</p>}
      <p className="pt-[9px]">
        <Link className="link" to="/crossings">
          All crossings
        </Link>
      </p>
    </section>
  );
}
