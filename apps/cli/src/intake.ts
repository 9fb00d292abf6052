import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  emptyEstate,
  faultsOfError,
  folderFiles,
  intakeTarget,
  listedKinds,
  objectKinds,
  readYaml,
  TableMap,
  writeFolder,
  writeTemplate,
  type Estate,
  type ObjectKind,
} from '@underpass/contracts';
import {
  guessColumns,
  guessKind,
  MapError,
  mapOf,
  readSheet,
  readText,
  SheetError,
  takeIn,
  type IntakeTarget,
  type ReadAs,
  type Sheet,
} from '@underpass/core';
import { CommandError } from './commandError.js';
import { estateFrom } from './folder.js';
import type { Options } from './options.js';

/** The examples of a template are the first things of the demo. */
const demo = fileURLToPath(new URL('../../../demo/saltmarsh', import.meta.url));
const mostBytes = 100_000_000;

function bytesFrom(file: string): Uint8Array {
  try {
    if (statSync(file).size > mostBytes) throw new CommandError(`${file}: is larger than ${mostBytes / 1_000_000} MB`);
    return readFileSync(file);
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${file}: there is no such file, or it cannot be read`);
  }
}

/** The rows of a file; what cannot be read is told with its row. */
async function sheetFrom(file: string, as: ReadAs): Promise<Sheet> {
  try {
    return (await readSheet(bytesFrom(file), as)).sheet;
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw new CommandError(`${file}:${error.row}: ${error.message}`);
  }
}

function kindOf(options: Options): ObjectKind | undefined {
  return options.choice('kind', objectKinds);
}

const targetOf = (kind: ObjectKind, estate: Estate): IntakeTarget => intakeTarget(kind, (each) => estate[each]);

/** What the columns of a file look like, and which fields they may be. */
export async function columns(options: Options): Promise<object> {
  const [file = ''] = options.positional;
  const kind = kindOf(options);
  const sheet = await sheetFrom(file, { kind: null });
  const estate = emptyEstate();
  const guesses = kind
    ? guessColumns(sheet, targetOf(kind, estate))
    : guessKind(
        sheet,
        listedKinds.map((each) => targetOf(each, estate)),
      )?.guesses;
  return {
    ...{ format: sheet.format, encoding: sheet.encoding, delimiter: sheet.delimiter, headerRow: sheet.headerRow, rows: sheet.rows.length },
    columns: guesses ?? [],
    notes: sheet.notes,
  };
}

function mapFrom(file: string): TableMap {
  let content: unknown;
  try {
    content = readYaml(readText(bytesFrom(file)).text);
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${file}: ${(error as Error).message}`);
  }
  const parsed = TableMap.safeParse(content);
  if (parsed.success) return parsed.data;
  throw new CommandError(
    faultsOfError(parsed.error)
      .map(({ path, problem }) => `${file}: ${path.join('.')} ${problem}`)
      .join('\n'),
  );
}

/** The estate of a folder that may be empty, or is not there yet. */
function estateIn(folder: string | undefined): ReturnType<typeof estateFrom> {
  if (folder === undefined || !existsSync(folder)) return { estate: emptyEstate(), measurements: [] };
  if (!statSync(folder).isDirectory()) throw new CommandError(`--into: ${folder} is a file; give a folder`);
  return readdirSync(folder).some((name) => /\.(csv|ya?ml)$/.test(name)) ? estateFrom(folder) : { estate: emptyEstate(), measurements: [] };
}

/** Takes the rows of a list in: what each would come to, and why some are not taken. With a folder, it is written there. */
export async function read(options: Options): Promise<object> {
  const [file = ''] = options.positional;
  const mapFile = options.text('map');
  const given = mapFile === undefined ? undefined : mapFrom(mapFile);
  const kind = kindOf(options) ?? given?.kind;
  if (!kind) throw new CommandError('--kind: is missing');
  if (given && given.kind !== kind) throw new CommandError(`--kind: ${mapFile} is a mapping of ${given.kind}`);
  const into = options.text('into');
  const { estate } = estateIn(into);
  const target = { ...targetOf(kind, estate), alone: into === undefined };
  const sheet = await sheetFrom(file, { ...given, kind });
  const map = given ?? mapOf(kind, sheet, guessColumns(sheet, target));
  const { taken, made, rejected, translated, missing, notes, alike } = taking(mapFile ?? file, () => takeIn(sheet, map, target));
  const count = (change: string) => taken.filter((each) => each.change === change).length;
  if (into !== undefined)
    writeInto(into, kind, estate, [
      ...made.map(({ kind: each, object }) => ({ kind: each, object })),
      ...taken.map(({ object }) => ({ kind, object })),
    ]);
  return {
    ...{ added: count('added'), changed: count('changed'), unchanged: count('unchanged') },
    rejected: rejected.map(({ row, column, value, text, wanted }) => ({ row, column, value, text, wanted })),
    values: translated.map(({ column, field, from, to, rows }) => ({ from, to, column, field, rows })),
    made: made.map(({ kind: each, object, name }) => ({ kind: each, id: object.id, name })),
    missing: missing.map(({ id }) => id),
    alike,
    notes: [...sheet.notes.map(({ row, text }) => `row ${row}: ${text}`), ...notes],
  };
}

function taking<T>(file: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof MapError)) throw error;
    throw new CommandError(`${file}: ${error.place}: ${error.message}`);
  }
}

/** Writes a folder to fill in. It must be new or empty: nothing of anybody's is written over. */
export function template(options: Options): object {
  const [folder = ''] = options.positional;
  if (existsSync(folder) && (!statSync(folder).isDirectory() || readdirSync(folder).length > 0))
    throw new CommandError(`${folder}: is there and not empty; give a folder that is new`);
  const { estate, measurements } = estateFrom(demo);
  const files = writeTemplate(estate, measurements);
  mkdirSync(folder, { recursive: true });
  for (const [name, text] of files) writeFileSync(join(folder, name), text);
  return { files: [...files.keys()] };
}

/** Writes the files of the kinds that were touched; others stay as they are. */
function writeInto(
  folder: string,
  kind: ObjectKind,
  estate: Estate,
  written: readonly { kind: ObjectKind; object: { id: string } }[],
): void {
  const next = { ...estate };
  const touched = new Set<ObjectKind>([kind]);
  for (const each of new Set(written.map((one) => one.kind))) {
    touched.add(each);
    const objects = new Map((estate[each] as { id: string }[]).map((object) => [object.id, object]));
    for (const { object } of written.filter((one) => one.kind === each)) objects.set(object.id, object);
    (next[each] as { id: string }[]) = [...objects.values()];
  }
  const files = writeFolder(next);
  mkdirSync(folder, { recursive: true });
  for (const each of touched) writeFileSync(join(folder, folderFiles[each]), files.get(folderFiles[each]) ?? '');
}
