import { readFileSync, writeFileSync } from 'node:fs';
import { kindTraits, parseHar } from '@underpass/contracts';
import {
  acceptancePlan,
  estateReadiness,
  FactsReader,
  guestState,
  modelOf,
  readHar,
  seesOf,
  shippedRules,
  whyNotSeen,
  type EstateModel,
} from '@underpass/core';
import QRCode from 'qrcode';
import { CommandError } from './commandError.js';
import { estateFrom } from './folder.js';
import type { Options } from './options.js';

function modelFrom(command: string, options: Options): EstateModel {
  const folder = options.positional[0];
  if (!folder) throw new CommandError(`${command}: give the estate folder`);
  const { estate, measurements } = estateFrom(folder);
  return modelOf(estate, measurements, { traits: kindTraits });
}

/** An id that must be given and must exist. */
function known(options: Options, name: 'person' | 'resource', ids: ReadonlyMap<string, unknown>): string {
  const id = options.text(name);
  if (id === undefined) throw new CommandError(`--${name}: is missing`);
  if (!ids.has(id)) throw new CommandError(`--${name}: no ${name} has the id “${id}”`);
  return id;
}

/** What a person sees now and after the next sign-in. */
export function sees(options: Options): object {
  const model = modelFrom('sees', options);
  const person = known(options, 'person', model.people);
  const result = seesOf(model, person);
  return {
    now: result?.now ?? [],
    afterNextSignIn: result?.afterNextSignIn ?? [],
    startsAtOnce: result?.startsAtOnce ?? null,
  };
}

/** Why a person does not see a resource, and the smallest mend. */
export function why(options: Options): object {
  const model = modelFrom('why', options);
  const person = known(options, 'person', model.people);
  const resource = known(options, 'resource', model.resources);
  const link = whyNotSeen(model, person, resource);
  if (link === null) return { seen: true, missing: null };
  if (link === undefined)
    throw new CommandError(`why: nothing in this estate can give ${resource}: no publication of its pool is held by a group`);
  return {
    seen: false,
    missing: { step: link.step, object: link.object, remedy: link.remedy, alsoOpensTo: link.alsoOpensTo.length },
  };
}

/** The distinct entitlement sets and the fewest people to test them with. */
export function acceptance(options: Options, nowMs: number): object {
  const { access } = modelFrom('acceptance', options);
  const { sets, testers, optimal } = acceptancePlan(access, (person) => guestState(person, nowMs) !== 'ended');
  return { sets, testers, optimal };
}

/** Who is ready for a feature, and what blocks the others. */
export function ready(options: Options, nowMs: number): object {
  const model = modelFrom('ready', options);
  const name = options.text('feature');
  const sets = model.requirements;
  const set = sets.find((each) => each.id === name || each.name === name);
  if (!set)
    throw new CommandError(
      `--feature: ${name === undefined ? 'is missing' : `no set is called “${name}”`}; there are ${sets.map(({ id }) => id).join(', ')}`,
    );
  const person = options.text('person') === undefined ? null : known(options, 'person', model.people);
  const result = estateReadiness(new FactsReader(model, nowMs), set, (ref) => person === null || ref.person === person);
  return {
    ready: result.ready,
    fallback: result.fallback,
    notReady: result.notReady,
    notKnown: result.notKnown,
    blockers: result.blockers.map(({ condition, bay, people }) => ({ condition, bay, people })),
  };
}

/** A recorded sign-in, read into steps. Nothing of it is kept. */
/** Recordings know no less than a microsecond; what is below comes of adding. */
const toMicrosecond = (ms: number): number => Math.round(ms * 1000) / 1000;

export function har(options: Options): object {
  const file = options.positional[0];
  if (!file) throw new CommandError('har: give the HAR file');
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CommandError(`${file}: cannot be read`);
  }
  const parsed = parseHar(text);
  if ('problem' in parsed) throw new CommandError(`${file}: ${parsed.problem}`);
  const reading = readHar(parsed.har, shippedRules);
  return {
    totalMs: toMicrosecond(reading.totalMs),
    steps: reading.steps.map(({ name, startMs, durationMs, requests }) => ({
      name,
      startMs: toMicrosecond(startMs),
      durationMs: toMicrosecond(durationMs),
      requests,
    })),
    criticalPath: reading.criticalPath,
    redirects: reading.redirects,
    failed: reading.failed,
  };
}

/** Writes a QR code of level M with its quiet zone [ISO/IEC 18004]. */
export async function code(options: Options): Promise<object> {
  const text = options.positional[0];
  const out = options.text('out');
  if (!text) throw new CommandError('code: give the text');
  const kind = /\.(svg|png)$/i.exec(out ?? '')?.[1]?.toLowerCase();
  if (!out || !kind) throw new CommandError('--out: give a file that ends in .svg or .png');
  const form = { errorCorrectionLevel: 'M', margin: 4 } as const;
  try {
    const { modules } = QRCode.create(text, form);
    writeFileSync(
      out,
      kind === 'svg' ? await QRCode.toString(text, { ...form, type: 'svg' }) : await QRCode.toBuffer(text, { ...form, scale: 8 }),
    );
    return { file: out, level: 'M', modules: modules.size };
  } catch (error) {
    const { code: fault, message } = error as NodeJS.ErrnoException;
    throw new CommandError(fault ? `--out: ${out} cannot be written` : `code: ${message}`);
  }
}
