import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { faultsOfKinds, folderFiles, kindTraits, readFolder, type Estate, type Measurement } from '@underpass/contracts';
import { withShippedSets } from '@underpass/contracts/shipped';
import { faultOfObject, faultsOfEstate, modelOf, type EstateModel } from '@underpass/core';
import { CommandError } from './commandError.js';

/** Reads an estate folder from disk; every fault is told with its file and line. */
export function estateFrom(folder: string): { estate: Estate; measurements: Measurement[] } {
  let names: string[];
  try {
    if (!statSync(folder).isDirectory()) throw new CommandError(`${folder}: is a file; give the folder it is in`);
    names = readdirSync(folder);
  } catch (error) {
    if (error instanceof CommandError) throw error;
    throw new CommandError(`${folder}: there is no such folder`);
  }
  const files = new Map(
    names.filter((name) => /\.(csv|ya?ml)$/.test(name)).map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
  );
  if (files.size === 0) throw new CommandError(`${folder}: holds no CSV or YAML file`);
  const { estate, measurements, problems, lines } = readFolder(files, {}, undefined, faultOfObject);
  if (problems.length === 0)
    for (const { kind, id, ...fault } of [...faultsOfKinds(estate), ...faultsOfEstate(estate)])
      problems.push({ file: folderFiles[kind], line: lines[kind]?.get(id) ?? 1, ...fault });
  if (problems.length)
    throw new CommandError(
      problems
        .map((p) => `${join(folder, p.file)}:${p.line}: ${p.field ? `${p.field} ` : ''}${p.problem}; expected ${p.expected}`)
        .join('\n'),
    );
  return { estate: withShippedSets(estate), measurements };
}

/** The model of an estate folder, with its crossings. */
export function modelFrom(folder: string): { estate: Estate; model: EstateModel } {
  const { estate, measurements } = estateFrom(folder);
  return { estate, model: modelOf(estate, measurements, { traits: kindTraits }) };
}
