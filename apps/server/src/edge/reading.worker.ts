import {
  ImportRequest,
  MeasurementRequest,
  objectKinds,
  readDocument,
  readFolder,
  RequirementSet,
  writeFolder,
} from '@underpass/contracts';
import type { FileProblem, FolderContent, ObjectKind } from '@underpass/contracts';
import { faultOfTexts } from '@underpass/contracts';
import { faultOfObject, faultsOfEstate, readMeasurementFile, type ReadAs } from '@underpass/core';
import type { MessagePort } from 'node:worker_threads';
import { strToU8, zipSync } from 'fflate';
import { atOneMoment } from '../estate/atOneMoment.js';
import { measurementOf, measurementsSince, objectsSince, writtenEstate } from '../estate/load.js';
import { directoryOver, type DirectoryTask } from '../intake/ldap/over.js';
import { look, take, type ListTask } from '../intake/reading.js';
import { sheetOf, sheetPdf, sheetSvg } from '../access/codeSheet.js';
import { notValid, type ProblemError } from '../problems/problem.js';
import { readJson } from './readJson.js';

/** A refusal as it crosses threads: a problem is told there as it would be here. */
export interface Refusal {
  refused: ProblemError['problem'];
}
type Read<T> = { value: T } | Refusal;

const refusing = <T>(read: () => T): Read<T> => {
  try {
    return { value: read() };
  } catch (error) {
    const { problem } = error as Partial<ProblemError>;
    if (!problem) throw error;
    return { refused: problem };
  }
};

function requestOf<T>(bytes: Uint8Array, schema: { safeParse: (value: unknown) => { success: boolean; data?: T; error?: unknown } }): T {
  const content = readJson(bytes);
  const unfit = faultOfTexts(content);
  if (unfit) throw notValid([unfit]);
  const parsed = schema.safeParse(content);
  if (!parsed.success) throw notValid((parsed.error as { issues: never[] }).issues);
  return parsed.data as T;
}

const refusingLater = async <T>(read: () => Promise<T>): Promise<Read<T>> => {
  try {
    return { value: await read() };
  } catch (error) {
    const { problem } = error as Partial<ProblemError>;
    if (!problem) throw error;
    return { refused: problem };
  }
};

/** How a list that was sent is written, and what its columns are taken for. */
export const lookAtList = ({ bytes, databaseUrl, options }: { bytes: Uint8Array; databaseUrl: string; options: ReadAs }) =>
  refusingLater(() => look(bytes, databaseUrl, options));

/** What a list comes to by a mapping. */
export const takeList = (task: ListTask) => refusingLater(() => take(task));

/** What a directory that was read comes to. */
export const readDirectory = (task: DirectoryTask) => refusingLater(() => directoryOver(task));

/** Looks over an upload: whether it is an import at all, and what is asked. */
export const checkImport = ({ bytes }: { bytes: Uint8Array }): Read<{ apply: boolean; files: number; seen: number | undefined }> =>
  refusing(() => {
    const { files, apply, seen } = requestOf(bytes, ImportRequest);
    return { apply, seen, files: Object.keys(files).length };
  });

/** Reads an estate folder away from the thread that answers people. */
export const readImport = ({
  bytes,
  known,
  port,
}: {
  bytes: Uint8Array;
  known: Record<ObjectKind, string[]>;
  port: MessagePort;
}): Read<FolderContent> =>
  refusing(() => {
    const { files } = requestOf(bytes, ImportRequest);
    const ids = Object.fromEntries(Object.entries(known).map(([kind, list]) => [kind, new Set(list)]));
    return readFolder(new Map(Object.entries(files)), ids, (file, done, total) => port.postMessage({ file, done, total }), faultOfObject);
  });

/** Requirement sets of a text, and what is wrong with it. */
export function requirements({ text }: { text: string }): Read<{ problems: FileProblem[]; sets: RequirementSet[] }> {
  const problems: FileProblem[] = [];
  const placed = readDocument('requirements.yaml', text, RequirementSet, problems);
  const whole = { group: [], publication: [], resource: [], pool: [], person: [], requirement: placed.map(({ value }) => value) };
  if (problems.length === 0)
    for (const { id, ...fault } of faultsOfEstate(whole)) {
      const at = placed.find(({ value }) => value.id === id);
      problems.push({ file: 'requirements.yaml', line: at?.lineAt(fault.field) ?? 1, ...fault });
    }
  return { value: { problems, sets: placed.map(({ value }) => value) } };
}

/** A measurement of another program: what was asked, and what its text says. */
export const measurement = ({ bytes }: { bytes: Uint8Array }) =>
  refusing(() => {
    const { text, ...where } = requestOf(bytes, MeasurementRequest);
    return { where, read: readMeasurementFile(text) };
  });

/** The estate folder as a ZIP, read from the database here: nobody waits while a large one is written. */
export const exportEstate = ({ databaseUrl }: { databaseUrl: string }): Promise<Read<Uint8Array>> =>
  atOneMoment(databaseUrl, async (query) => {
    const objects = new Map<ObjectKind, Map<string, object>>(objectKinds.map((kind) => [kind, new Map()]));
    for await (const rows of objectsSince(query, '0'))
      for (const row of rows) if (!row.deleted) objects.get(row.kind)?.set(row.id, row.data);
    const files = writeFolder(writtenEstate(objects), (await measurementsSince(query, '0')).map(measurementOf));
    return { value: zipSync(Object.fromEntries([...files].map(([name, text]) => [name, strToU8(text)]))) };
  });

/** A sheet of codes, drawn. */
export const sheet = async ({
  codes,
  distanceM,
  format,
  caption,
}: {
  codes: Parameters<typeof sheetOf>[0];
  distanceM: number;
  format: 'svg' | 'pdf';
  caption: Parameters<typeof sheetOf>[2];
}): Promise<Read<{ distanceM: number; content: string | Uint8Array }>> => {
  const drawn = sheetOf(codes, distanceM, caption);
  return { value: { distanceM: drawn.distanceM, content: format === 'svg' ? sheetSvg(drawn) : await sheetPdf(drawn) } };
};
