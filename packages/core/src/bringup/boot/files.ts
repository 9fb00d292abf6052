import type { ConfigFile } from '@underpass/contracts';
import { bytesToHex } from '@noble/hashes/utils.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { slipsBetween } from '../../find/index.js';
import { utf8Bytes } from '../../units/text.js';
import { plural } from '../../units/words.js';
import { mergeConfig, type Merged, type UnreadBecause } from '../configFile/index.js';
import type { BootCause } from './causes/index.js';
import type { BootFacts } from './facts.js';
import { rateOf, roundTripMs } from './line.js';
import type { Run, StepEnd } from './run.js';
import { placeOf, portOf, type ServerPlace } from './serverPlace.js';

/** Letters by which a name may differ from another and still be meant. */
const mostSlips = 2;

/** Reaches the server that was told. */
export function reachServer(run: Run, facts: BootFacts, told: ServerPlace): StepEnd {
  const { servers, location, fleet, scopes, assumed } = facts;
  const known = servers.flatMap((server) => {
    const place = placeOf(server.address);
    return place ? [{ server, place }] : [];
  });
  const has = `${told.host}${told.port === null ? '' : `:${told.port}`}`;
  const words = {
    has,
    server: known[0]?.server.address ?? '',
    code: String(fleet?.serverOption.code ?? ''),
    scope: scopes[0]?.id ?? '',
    place: location.name,
  };
  const broken = (cause: BootCause, server = words.server): StepEnd => ({ cause, words: { ...words, server } });
  run.say('sent', `asks ${has} for its files`);
  const there = known.filter(({ place }) => place.host === told.host);
  const exact = there.find(({ place }) => place.port === null || place.port === portOf(told));
  if (exact?.server.reachable) {
    run.wait(roundTripMs(facts) * 2);
    run.say('received', `${has} answers`, `settings server ${exact.server.id}`);
    return { detail: `${has}, ${exact.server.id}` };
  }
  run.wait(assumed.bringup.connectS * 1000);
  run.say('here', `waited ${assumed.bringup.connectS} s`);
  if (exact) return broken('server silent', exact.server.address);
  if (there[0]) return broken('server on another port', there[0].server.address);
  const near = known.find(({ place }) => slipsBetween(place.host, told.host, mostSlips) <= mostSlips);
  return near ? broken('server misspelt', near.server.address) : broken('server unknown');
}

const sums = new WeakMap<ConfigFile, string>();
/** Sum of a file’s text in UTF-8 [FIPS 180-4], worked out once. */
export function sumOf(file: ConfigFile): string {
  let sum = sums.get(file);
  if (sum === undefined) sums.set(file, (sum = bytesToHex(sha256(utf8Bytes(file.text)))));
  return sum;
}

const unreadable: Record<UnreadBecause, BootCause> = {
  'no equals': 'line without equals',
  'no key': 'line without key',
  'no bracket': 'section not closed',
};

/** Fetches the files, holds their sums against the signed list, and merges them; what they come to goes into `keep`. */
export function fetchFiles(run: Run, facts: BootFacts, keep: (merged: Merged) => void): StepEnd {
  const { files, endpoint } = facts;
  const bytesPerMs = rateOf(facts) * 125;
  let bytes = 0;
  for (const file of files) {
    const size = utf8Bytes(file.text).length;
    bytes += size;
    run.wait(roundTripMs(facts) + size / bytesPerMs);
    run.say('received', `${file.id}, ${size} bytes`, `file ${file.id}`);
    const sum = sumOf(file);
    if (sum !== (file.sha256 ?? sum).toLowerCase()) {
      lastGood(run, endpoint.reportedAt);
      return { cause: 'file sum differs', words: { file: file.id, has: `${sum.slice(0, 8)}…`, line: '' } };
    }
  }
  const merged = mergeConfig(files.map(({ id, text }) => ({ name: id, text })));
  for (const { file, line, text } of merged.problems) run.say('here', text, `${file}, line ${line}`);
  const [first] = merged.unread;
  if (first) {
    lastGood(run, endpoint.reportedAt);
    return { cause: unreadable[first.because], words: { file: first.file, line: String(first.line) } };
  }
  if (files.length === 0) run.note('no file', 'No file is published for it: it goes on with what its maker set.');
  keep(merged);
  return { detail: `${plural(files.length, 'file')}, ${(bytes / 1000).toFixed(1)} kB, ${plural(merged.values.length, 'value')}` };
}

/** One that has started before does not stand still for a bad file. */
function lastGood(run: Run, reportedAt: string | undefined): void {
  if (reportedAt !== undefined)
    run.note(
      'keeps last good file',
      `It has started before (${reportedAt.slice(0, 10)}): it goes on with the last good files until these are mended.`,
    );
}
