import { useQuery } from '@tanstack/react-query';
import type { Named } from '@underpass/contracts';
import { definitionOf, profileDifferences, type Profile } from '@underpass/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useKeepDraft } from '../api/drafts.js';
import { useCanEdit } from '../api/session.js';
import { Pick } from '../ui/Pick.js';
import { Failed } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { Wide } from '../ui/Wide.js';
import { profileFormats, profileOf, profileText, readProfile, type ProfileFormat } from './profileFile.js';
import { settingsQueries } from './queries.js';
import { valueText } from './valueWords.js';

/** What stands on one side: somebody's settings, now or on a past date; or what is in a file. */
interface SideProfile {
  name: string;
  profile: Profile;
}
const mimes: Record<ProfileFormat, string> = { json: 'application/json', yaml: 'text/yaml', ini: 'text/plain' };

/** Two profiles, setting by setting, only what differs: of two endpoints, of two dates, or of a file. Each goes out as a file, and a file in as a draft. */
export function CompareProfiles() {
  const [first, setFirst] = useState<SideProfile | null>(null);
  const [second, setSecond] = useState<SideProfile | null>(null);
  const [endpoint, setEndpoint] = useState<Named | null>(null);
  const rows = first && second ? profileDifferences(first.profile, second.profile) : null;
  return (
    <section aria-labelledby="compare-profiles" className="min-w-0">
      <h2 id="compare-profiles" className="text-[20px] leading-[26px]">
        Settings beside each other
      </h2>
      <p className="text-ink-2">Of two endpoints, of one on two dates, or of a file. Only what differs is shown.</p>
      <Side name="First" onProfile={setFirst} onEndpoint={setEndpoint} />
      <Side name="Second" onProfile={setSecond} />
      {rows && (
        <div role="status" className="mt-4">
          <p className="text-[15px] leading-5">
            {rows.length === 0 ? 'They are the same.' : `${rows.length} ${rows.length === 1 ? 'setting is' : 'settings are'} otherwise.`}
          </p>
          {rows.length > 0 && (
            <Wide label="Settings that differ" className="mt-2">
              <table className="w-full">
                <thead className="head">
                  <tr>
                    <th scope="col">Setting</th>
                    <th scope="col">{first?.name}</th>
                    <th scope="col">{second?.name}</th>
                  </tr>
                </thead>
                <tbody>
                  {rows.map(({ key, a, b }) => (
                    <tr key={key} className="border-b border-rule">
                      <th scope="row" className="text-left font-semibold py-1 pr-3">
                        {definitionOf(key)?.label ?? key} <span className="mono font-normal text-[12px] text-ink-3">{key}</span>
                      </th>
                      <td className="pr-3">{valueText(key, a)}</td>
                      <td>{valueText(key, b)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Wide>
          )}
          {endpoint && second && rows.length > 0 && <TakeOver endpoint={endpoint} from={second} rows={rows} />}
        </div>
      )}
    </section>
  );
}

function Side({
  name,
  onProfile,
  onEndpoint,
}: {
  name: string;
  onProfile: (side: SideProfile | null) => void;
  onEndpoint?: (endpoint: Named | null) => void;
}) {
  const [endpoint, setEndpoint] = useState<Named | null>(null);
  const [day, setDay] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const [format, setFormat] = useState<ProfileFormat>('json');
  const of = useQuery(settingsQueries.of(endpoint?.id ?? '', null, day ? `${day}T23:59:59Z` : null));
  const profile = endpoint && of.data && !of.isPlaceholderData ? profileOf(of.data) : null;
  const [shown, setShown] = useState<object | null>(null);
  if (profile && endpoint && of.data !== shown) {
    setShown(of.data ?? null);
    onProfile({ name: `${endpoint.name}${day ? ` on ${day}` : ''}`, profile });
  }
  const take = (file: File | undefined) => {
    if (!file) return;
    setEndpoint(null);
    onEndpoint?.(null);
    setTold(null);
    void file.text().then((text) => {
      const read = readProfile(text);
      if ('fault' in read) {
        setFault(`${file.name}: ${read.fault}`);
        onProfile(null);
        return;
      }
      const [wrong] = read.read.faults;
      setFault(wrong ? `${file.name}: ${wrong.key ? `${wrong.key} ` : ''}${wrong.problem}` : null);
      const unknown = Object.keys(read.read.unknown);
      setTold(
        `${Object.keys(read.read.values).length} settings read${unknown.length > 0 ? `; nobody knows ${unknown.slice(0, 4).join(', ')}${unknown.length > 4 ? ` and ${unknown.length - 4} more` : ''}, which is kept` : ''}.`,
      );
      onProfile({ name: file.name, profile: { ...read.read.values, ...read.read.unknown } as Profile });
    });
  };
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="sr-only">{name}</legend>
      <div className="flex flex-wrap gap-3 items-center">
        <span className="text-ink-3 w-[54px]">{name}</span>
        <Pick
          kind="endpoint"
          label={`${name}: endpoint`}
          value={endpoint}
          onPick={(picked) => {
            setEndpoint(picked);
            onEndpoint?.(picked);
            setFault(null);
            setTold(null);
            if (!picked) onProfile(null);
          }}
        />
        <input
          type="date"
          className="field w-[140px]"
          aria-label={`${name}: past date`}
          value={day}
          onChange={({ target }) => setDay(target.value)}
        />
        <label className="btn btn-small relative">
          Read a file
          <input
            type="file"
            className="absolute inset-0 opacity-0 cursor-pointer"
            accept=".json,.yaml,.yml,.ini,.txt"
            aria-label={`${name}: read a file`}
            onChange={({ target }) => take(target.files?.[0])}
          />
        </label>
      </div>
      {profile && (
        <p className="flex flex-wrap gap-2 items-center mt-2">
          <span className="text-ink-3 w-[54px]" />
          <label className="inline-flex gap-2 items-center">
            <span className="text-ink-3">as</span>
            <select className="field h-[26px]" value={format} onChange={({ target }) => setFormat(target.value as ProfileFormat)}>
              {profileFormats.map((each) => (
                <option key={each} value={each}>
                  {each.toUpperCase()}
                </option>
              ))}
            </select>
          </label>
          <a
            className="btn btn-small"
            download={`${endpoint?.id}-settings.${format}`}
            href={`data:${mimes[format]};charset=utf-8,${encodeURIComponent(profileText(profile, format))}`}
          >
            Take the file
          </a>
        </p>
      )}
      {of.isError && endpoint && <Failed what="The settings" error={of.error} onRetry={() => void of.refetch()} />}
      {fault && (
        <p role="alert" className="text-brick mt-1">
          {fault}
        </p>
      )}
      {told && <p className="text-ink-2 mt-1">{told}</p>}
    </fieldset>
  );
}

/** What the second side has otherwise becomes a draft for the endpoint of the first. */
function TakeOver({ endpoint, from, rows }: { endpoint: Named; from: SideProfile; rows: ReturnType<typeof profileDifferences> }) {
  const canEdit = useCanEdit();
  const { keep } = useKeepDraft();
  const navigate = useNavigate();
  const { busy, fault, run } = useAction();
  const known = rows.flatMap(({ key, b }) =>
    b !== undefined && definitionOf(key) && definitionOf(key)?.type !== 'list' ? [{ key, value: b }] : [],
  );
  if (!canEdit || known.length === 0) return null;
  return (
    <p className="mt-3">
      <button
        className="btn"
        disabled={busy}
        onClick={() =>
          void run(async () => {
            const patches = known.map(({ key, value }) => ({
              do: 'setting' as const,
              key,
              layer: 'endpoint' as const,
              target: endpoint.id,
              value,
            }));
            const id = await keep(`${endpoint.name} as ${from.name}`, { change: { patches, hypotheses: [] } });
            await navigate(`/settings/drafts/${id}`);
          })
        }
      >
        Make a draft: {endpoint.name} as {from.name}
      </button>
      {fault && (
        <span role="alert" className="block text-brick">
          {fault}
        </span>
      )}
    </p>
  );
}
