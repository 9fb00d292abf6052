import { useQuery } from '@tanstack/react-query';
import type { SettingKey } from '@underpass/core';
import { moment } from '../ui/times.js';
import { settingsQueries } from './queries.js';
import { valueText } from './valueWords.js';

/** Where else a setting stands, and who wrote what of it, when and why. */
export function SettingHistory({ settingKey, here }: { settingKey: SettingKey; here: ReadonlySet<string> }) {
  const { data } = useQuery(settingsQueries.places(settingKey));
  const elsewhere = (data?.entries ?? []).filter(({ entry }) => !here.has(entry.id));
  return (
    <div className="mt-4 border-t border-rule pt-3 grid gap-4">
      <section aria-label="Elsewhere">
        <h2>Elsewhere</h2>
        {elsewhere.length === 0 ? (
          <p className="text-ink-2">It is set nowhere else.</p>
        ) : (
          <ul className="flex flex-wrap gap-x-5 gap-y-1 mt-1">
            {elsewhere.slice(0, 12).map(({ entry, where }) => (
              <li key={entry.id}>
                {where} <b>{valueText(settingKey, entry.value)}</b>
                {entry.locked && <span className="text-ink-3"> locked</span>}
              </li>
            ))}
            {elsewhere.length > 12 && <li className="text-ink-3">and {elsewhere.length - 12} more</li>}
          </ul>
        )}
      </section>
      <section aria-label="History">
        <h2>History</h2>
        {data?.history.length === 0 && <p className="text-ink-2">Nobody wrote it yet.</p>}
        <ol className="mt-1">
          {data?.history.slice(0, 12).map((each) => (
            <li key={`${each.at}${each.id}`} className="border-b border-rule py-1 grid grid-cols-[120px_minmax(0,1fr)] gap-x-3">
              <span className="text-ink-3">{moment(each.at)}</span>
              <span>
                <b className="font-semibold">{each.by}</b>, {each.where}: {each.old ? valueText(settingKey, each.old.value) : 'not set'}{' '}
                became <b className="font-semibold">{each.fresh ? valueText(settingKey, each.fresh.value) : 'not set'}</b>
                {each.fresh?.locked && ', locked'}. <span className="text-ink-2">{each.why}</span>
              </span>
            </li>
          ))}
        </ol>
      </section>
    </div>
  );
}
