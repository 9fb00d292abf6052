import { useQuery } from '@tanstack/react-query';
import type { SettingsOf } from '@underpass/contracts';
import { kindWords } from '@underpass/contracts';
import { useState } from 'react';
import { Pick } from '../ui/Pick.js';
import { Failed } from '../ui/States.js';
import { profileFormats, profileOf, profileText, readProfile, type ProfileFormat } from './profileFile.js';
import { sideKinds, type SideKind, type SideProfile, type Whose } from './profileSide.js';
import { settingsQueries } from './queries.js';

/** A profile that was read from a file, and what was said of it. */
export interface SideFile {
  side: SideProfile | null;
  told: string | null;
  faults: string[];
}
const mimes: Record<ProfileFormat, string> = { json: 'application/json', yaml: 'text/yaml', ini: 'text/plain' };
/** So many are told one by one. */
const mostTold = 6;

/** Reads a file as a side; what does not fit is told one by one, and the rest counts. */
async function sideFrom(file: File): Promise<SideFile> {
  const read = readProfile(await file.text());
  if ('fault' in read) return { side: null, told: null, faults: [`${file.name}: ${read.fault}`] };
  const { values, unknown, faults } = read.read;
  const odd = Object.keys(unknown);
  const count = Object.keys(values).length;
  return {
    side: { name: file.name, profile: { ...values, ...unknown }, now: null, partial: true },
    told: `${count} ${count === 1 ? 'setting' : 'settings'} read${odd.length > 0 ? `; nobody knows ${odd.slice(0, 4).join(', ')}${odd.length > 4 ? ` and ${odd.length - 4} more` : ''}, which is kept` : ''}.`,
    faults: faults.map(({ key, problem }) => `${file.name}: ${key ? `${key} ` : ''}${problem}`),
  };
}

const nameOf = ({ kind }: Whose, { names }: SettingsOf): string =>
  kind === 'location' ? names.location : kind === 'person' ? (names.person ?? '') : names.endpoint;

/** The settings in force of whom a side names, now or at the end of a day. */
export function useSide(whose: Whose | null, day: string | null) {
  const asked = useQuery(settingsQueries.of(whose, day ? `${day}T23:59:59Z` : null));
  const of = whose && !asked.isPlaceholderData ? (asked.data ?? null) : null;
  const name = whose && of ? nameOf(whose, of) : '';
  const side: SideProfile | null =
    whose && of
      ? { name: `${name}${of.past ? ` on ${day}` : ''}`, profile: profileOf(of), now: of.past ? null : { whose, of }, partial: false }
      : null;
  return { side, of, name, asked };
}

/** Chooses one side: somebody or somewhere, now or on a day; or a file. What it comes to goes out as a file. */
export function ProfileSide({
  name,
  whose,
  onWhose,
  day,
  onDay,
  loaded,
  file,
  onFile,
}: {
  name: string;
  whose: Whose | null;
  onWhose: (whose: Whose | null) => void;
  day: string;
  onDay: (day: string) => void;
  loaded: ReturnType<typeof useSide>;
  file: SideFile | null;
  onFile: (file: SideFile) => void;
}) {
  const [kind, setKind] = useState<SideKind>(whose?.kind ?? 'endpoint');
  const [format, setFormat] = useState<ProfileFormat>('json');
  const { side, of, asked } = loaded;
  return (
    <fieldset className="mt-3 border-t border-rule pt-2 grid grid-cols-[54px_minmax(0,1fr)] gap-x-3">
      <legend className="sr-only">{name}</legend>
      <span className="text-ink-3 pt-1">{name}</span>
      <div className="grid gap-2">
        <div className="flex flex-wrap gap-3 items-center">
          <select
            className="field w-[104px]"
            aria-label={`${name}: settings of`}
            value={kind}
            onChange={({ target }) => {
              setKind(target.value as SideKind);
              onWhose(null);
            }}
          >
            {sideKinds.map((each) => (
              <option key={each} value={each}>
                {kindWords[each].one}
              </option>
            ))}
          </select>
          <Pick
            kind={kind}
            label={`${name}: ${kind}`}
            value={whose ? { id: whose.id, name: loaded.name || whose.id } : null}
            onPick={(picked) => onWhose(picked ? { kind, id: picked.id } : null)}
          />
        </div>
        {of?.usual && (
          <p className="text-ink-2 mt-1">
            As {of.usual.alike} of {of.usual.of} endpoints there are: {of.subject.deviceClass}, {of.subject.ownership},{' '}
            {of.subject.clientKind}; nobody in particular.
          </p>
        )}
        <div className="flex flex-wrap gap-3 items-center">
          <input
            type="date"
            className="field w-[140px]"
            aria-label={`${name}: past date`}
            value={day}
            max={new Date().toISOString().slice(0, 10)}
            onChange={({ target }) => onDay(target.value)}
          />
          <label className="btn btn-small relative">
            Read a file
            <input
              type="file"
              className="absolute inset-0 opacity-0 cursor-pointer"
              accept=".json,.yaml,.yml,.ini,.txt"
              aria-label={`${name}: read a file`}
              onChange={({ target }) => {
                const [chosen] = target.files ?? [];
                // the same file is read again after it was mended
                if (chosen)
                  void sideFrom(chosen).then(onFile, () => onFile({ side: null, told: null, faults: [`${chosen.name} cannot be read.`] }));
                target.value = '';
              }}
            />
          </label>
          {side && (
            <>
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
                download={`${whose?.id}-settings.${format}`}
                href={`data:${mimes[format]};charset=utf-8,${encodeURIComponent(profileText(side.profile, format))}`}
              >
                Take the file
              </a>
            </>
          )}
        </div>
        {whose && asked.isError && <Failed what="The settings" error={asked.error} onRetry={() => void asked.refetch()} />}
        {file && file.faults.length > 0 && (
          <ul role="alert" className="text-brick mt-1">
            {file.faults.slice(0, mostTold).map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
            {file.faults.length > mostTold && <li>and {file.faults.length - mostTold} more</li>}
          </ul>
        )}
        {file?.told && <p className="text-ink-2 mt-1">{file.told}</p>}
      </div>
    </fieldset>
  );
}
