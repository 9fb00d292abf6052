import { useQuery } from '@tanstack/react-query';
import type { Named } from '@underpass/contracts';
import { useState } from 'react';
import { useTitle } from '../shell/useTitle.js';
import { DropRecording } from './DropRecording.js';
import { signonQueries } from './queries.js';
import { Recording } from './Recording.js';
import { Rules } from './Rules.js';
import { Savings } from './Savings.js';
import { useReading } from './useReading.js';
import { fixed } from '../ui/figures.js';

/** What shortcuts would save a group in a year, and recorded sign-ins that replace what is assumed. */
export function SignonPage() {
  useTitle('Sign-on time');
  const [group, setGroup] = useState<Named | null>(null);
  const savings = useQuery(signonQueries.savings(group ? { group: group.id } : {}));
  const rules = useQuery(signonQueries.rules());
  const { file, reading, problem, busy, read, take } = useReading(async () => (rules.data ?? (await rules.refetch()).data)?.rules);
  const [best] = savings.data?.savings ?? [];
  return (
    <>
      <h1>
        {savings.data && best && best.hoursAYear >= 1
          ? `${best.name}: ${Math.round(best.hoursAYear)} hours a year for ${best.people} people`
          : 'Sign-on time'}
      </h1>
      <p className="text-ink-3">
        {savings.data
          ? `${savings.data.people} people wait ${fixed(savings.data.meanS, 1)} s on average until it is usable, at ${savings.data.signInsPerDay} sign-ins on ${savings.data.workingDays} days a year.`
          : 'What each shortcut would save.'}
      </p>
      <div className="grid grid-cols-1 min-[1100px]:grid-cols-2 gap-x-12 relative">
        <Savings savings={savings} group={group} onGroup={setGroup} />
        <DropRecording busy={busy ? (file?.name ?? '') : null} problem={problem} onTake={(chosen) => void take(chosen)} />
      </div>
      {reading && file && <Recording key={`${file.name}${file.lastModified}`} reading={reading} name={file.name} />}
      {rules.data && (
        <Rules
          rules={rules.data.rules}
          shipped={rules.data.shipped}
          version={rules.data.version}
          onTry={(next) => file && read(file, next)}
        />
      )}
    </>
  );
}
