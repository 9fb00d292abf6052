import type { z } from 'zod';
import { emptyEstate, folderFiles, objectKinds, objectSchemas, type Estate, type ObjectKind } from '../estate/estate.js';
import { Measurement } from '../estate/measurement.js';
import { referencesOf } from '../estate/references.js';
import { readDocument, writeDocument } from './document.js';
import type { FileProblem } from './problem.js';
import { readTable, writeTable, type Placed } from './table.js';

export const measurementsFile = 'measurements.csv';

export interface FolderContent {
  estate: Estate;
  measurements: Measurement[];
  problems: FileProblem[];
  /** Line each object stands in, by kind and id, to tell faults that show only in the whole. */
  lines: Partial<Record<ObjectKind, ReadonlyMap<string, number>>>;
  /** Kinds whose file is there; a kind without a file is left alone by an import. */
  present: ObjectKind[];
}

const read = <S extends z.ZodType>(file: string, text: string, schema: S, problems: FileProblem[]) =>
  file.endsWith('.csv') ? readTable(file, text, schema, problems) : readDocument(file, text, schema, problems);

function withoutDuplicates<T extends { id: string }>(placed: Placed<T>[], problems: FileProblem[]): Placed<T>[] {
  const lines = new Map<string, number>();
  return placed.filter(({ value, file, line }) => {
    const first = lines.get(value.id);
    if (first === undefined) return lines.set(value.id, line);
    problems.push({ file, line, field: 'id', problem: `“${value.id}” stands in line ${first} already`, expected: 'an id of its own' });
    return false;
  });
}

/**
 * Reads an estate folder given as file name → text. Nothing is skipped silently: every row left out has a problem.
 * `known` are ids that exist already, so that a folder may hold a part of the estate; `check` may refuse what a schema cannot know,
 * such as a value of the settings' catalogue.
 */
export function readFolder(
  files: ReadonlyMap<string, string>,
  known: Partial<Record<ObjectKind, ReadonlySet<string>>> = {},
  onProgress: (file: string, done: number, total: number) => void = () => {},
  check: (kind: ObjectKind, value: object) => { field: string; problem: string; expected: string } | null = () => null,
): FolderContent {
  const problems: FileProblem[] = [];
  const estate = emptyEstate();
  const present: ObjectKind[] = [];
  const lines: Partial<Record<ObjectKind, Map<string, number>>> = {};
  const ids = {} as Record<ObjectKind, Set<string>>;
  const rows = new Map<ObjectKind, Placed<{ id: string }>[]>();
  const names = new Set<string>([...Object.values(folderFiles), measurementsFile]);
  for (const file of files.keys())
    if (/\.(csv|ya?ml)$/.test(file) && !names.has(file))
      problems.push({
        file,
        line: 1,
        field: '',
        problem: 'is not a file of an estate folder',
        expected: `one of ${[...names].join(', ')}`,
      });
  for (const [i, kind] of objectKinds.entries()) {
    ids[kind] = new Set(known[kind]);
    const file = folderFiles[kind];
    const text = files.get(file);
    onProgress(file, i, objectKinds.length + 1);
    if (text === undefined) continue;
    present.push(kind);
    const placed = withoutDuplicates(read(file, text, objectSchemas[kind], problems) as Placed<{ id: string }>[], problems);
    for (const { value } of placed) ids[kind].add(value.id);
    lines[kind] = new Map(placed.map(({ value, line }) => [value.id, line]));
    rows.set(kind, placed);
  }
  // what refers to what is looked at once all is read: any file may refer to any other
  for (const [kind, placed] of rows) {
    const file = folderFiles[kind];
    const kept = placed.filter(({ value, lineAt }) => {
      const missing = referencesOf(kind, value).filter(({ to, id }) => !ids[to]?.has(id));
      for (const { field, to, id } of missing)
        problems.push({
          file,
          line: lineAt(field),
          field,
          problem: `no ${to} has the id “${id}”`,
          expected: `an id that stands in ${folderFiles[to]}`,
        });
      const fault = missing.length === 0 ? check(kind, value) : null;
      if (fault) problems.push({ file, line: lineAt(fault.field), ...fault });
      return missing.length === 0 && !fault;
    });
    (estate[kind] as { id: string }[]) = kept.map(({ value }) => value);
  }
  const measured = files.get(measurementsFile);
  onProgress(measurementsFile, objectKinds.length, objectKinds.length + 1);
  const measurements =
    measured === undefined ? [] : withoutDuplicates(readTable(measurementsFile, measured, Measurement, problems), problems);
  const placed = measurements.filter(({ value, line }) => {
    const [field, to, id]: [string, ObjectKind, string] = ids.location.has(value.location)
      ? ['target', 'region', value.target ?? '']
      : ['location', 'location', value.location];
    if (id === '' || ids[to].has(id)) return true;
    problems.push({
      file: measurementsFile,
      line,
      field,
      problem: `no ${to} has the id “${id}”`,
      expected: `an id that stands in ${folderFiles[to]}`,
    });
    return false;
  });
  const fileOrder = [...names];
  problems.sort((a, b) => fileOrder.indexOf(a.file) - fileOrder.indexOf(b.file) || a.line - b.line);
  return { estate, measurements: placed.map(({ value }) => value), problems, lines, present };
}

/** The estate as file name → text. Reading it again gives the same estate. */
export function writeFolder(estate: Estate, measurements: readonly Measurement[] = []): Map<string, string> {
  const files = new Map<string, string>();
  for (const kind of objectKinds) {
    const file = folderFiles[kind];
    files.set(file, file.endsWith('.csv') ? writeTable(objectSchemas[kind] as z.ZodType, estate[kind]) : writeDocument(estate[kind]));
  }
  if (measurements.length) files.set(measurementsFile, writeTable(Measurement, measurements));
  return files;
}
