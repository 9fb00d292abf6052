import type { HostReport, Recipe, RecipeStep } from '@underpass/contracts';
import { isOnRelease } from './release.js';

/** How a step stands on a host. */
export interface StepResult {
  step: RecipeStep;
  status: 'done' | 'to do' | 'not known' | 'does not apply';
  /** What was found. */
  found: string;
  /** What to do; empty where nothing is. */
  todo: string;
}
/** How a preparation stands on a host. */
export interface RecipeResult {
  applies: 'yes' | 'no' | 'not known';
  /** Why it does not apply, or why that is not known. */
  because: string;
  steps: StepResult[];
}

type Found = Pick<StepResult, 'status' | 'found'> & { todo?: string };
const unknown = (what: string): Found => ({ status: 'not known', found: `the host could not tell ${what}` });
const days = 86_400_000;

/**
 * Holds what a host told of itself against a recipe. A service has to be enabled and running: what was newly installed is not started,
 * and what was started is not enabled. What the report does not tell is not known, never done.
 * @param atMs now, for how long certificates are valid
 */
export function evaluateRecipe(recipe: Recipe, report: HostReport, atMs: number): RecipeResult {
  const { release } = report;
  const steps = recipe.steps.map((step): StepResult => {
    const bounded = step.from !== undefined || step.below !== undefined;
    if (bounded && release === null) return told(step, { status: 'not known', found: 'the release of the host is not known' });
    if (bounded && release !== null && !isOnRelease(step, release))
      return told(step, { status: 'does not apply', found: `no step on release ${release}` });
    return told(step, found(step, report, atMs));
  });
  return { ...applying(recipe, report), steps };
}

const told = (step: RecipeStep, { status, found: text, todo = '' }: Found): StepResult => ({
  ...{ step, status, found: text },
  todo: status === 'to do' ? (step.todo ?? todo) : '',
});

function applying({ from, below, needs }: Recipe, { release, packages }: HostReport): Pick<RecipeResult, 'applies' | 'because'> {
  const missing = needs.find((name) => packages[name] === null);
  if (missing !== undefined) return { applies: 'no', because: `${missing} is not installed` };
  if (from !== undefined || below !== undefined) {
    if (release === null) return { applies: 'not known', because: 'the release of the host is not known' };
    if (!isOnRelease({ from, below }, release)) return { applies: 'no', because: `it is not for release ${release}` };
  }
  const untold = needs.find((name) => packages[name] === undefined);
  return untold === undefined
    ? { applies: 'yes', because: '' }
    : { applies: 'not known', because: `whether ${untold} is installed is not known` };
}

function found(step: RecipeStep, report: HostReport, atMs: number): Found {
  switch (step.check) {
    case 'package': {
      const name = step.package ?? '';
      const version = report.packages[name];
      if (version === undefined) return unknown(`whether ${name} is installed`);
      return version === null
        ? { status: 'to do', found: 'not installed', todo: `Install ${name}.` }
        : { status: 'done', found: `${version} is installed` };
    }
    case 'service':
      return ofService(step.service ?? '', report);
    case 'section':
    case 'key':
      return ofFile(step, report);
    case 'port': {
      const port = portKey(step);
      const open = report.ports[port] ?? null;
      if (open === null) return unknown(`whether something listens on ${port}`);
      return open
        ? { status: 'done', found: 'something listens there, not for itself alone' }
        : {
            status: 'to do',
            found: 'nothing listens there for others',
            todo: `Start what listens on ${port}, and open it in the firewall.`,
          };
    }
    case 'group': {
      const name = step.group ?? '';
      const there = report.groups[name] ?? null;
      if (there === null) return unknown(`whether there is a group ${name}`);
      return there
        ? { status: 'done', found: 'the group is there' }
        : { status: 'to do', found: 'there is no such group', todo: `Add the group ${name}, and those who may connect to it.` };
    }
    case 'certificate':
      return ofCertificate(step, report, atMs);
  }
}

/** A port as reports name it. @example tcp/5950 */
export const portKey = ({ protocol = 'tcp', port = 0 }: Pick<RecipeStep, 'protocol' | 'port'>): string => `${protocol}/${port}`;

function ofService(name: string, { services }: HostReport): Found {
  const service = services[name];
  if (!service) return unknown(`how ${name} stands`);
  const { enabled, running } = service;
  // what is known to be missing is told, whatever else is not known
  if (enabled === false && running === true)
    return { status: 'to do', found: 'runs, and is not enabled: it is gone after the next start', todo: `Enable ${name}.` };
  if (enabled === false)
    return {
      status: 'to do',
      found: running === false ? 'neither enabled nor running' : 'not enabled',
      todo: `Enable ${name}, and start it.`,
    };
  if (running === false)
    return { status: 'to do', found: 'enabled, and does not run', todo: `Start ${name}; if it stops again, read what it logged.` };
  if (enabled === null || running === null) return unknown(enabled === null ? `whether ${name} is enabled` : `whether ${name} runs`);
  return { status: 'done', found: 'enabled, and runs' };
}

function ofFile({ check, file = '', section = '', key = '', value = '' }: RecipeStep, report: HostReport): Found {
  const there = report.sections.find((each) => each.file === file && each.section === section);
  if (!there || there.state === 'not readable') return unknown(`what stands in ${file}`);
  if (there.state === 'no file')
    return { status: 'to do', found: 'there is no such file', todo: `Make ${file} with the section [${section}].` };
  if (there.state === 'missing') return { status: 'to do', found: 'the section is not in the file', todo: `Add [${section}] to ${file}.` };
  if (there.state === 'off')
    return {
      status: 'to do',
      found: 'the section is switched off by comments',
      todo: `Take the comment signs off [${section}] and its keys in ${file}.`,
    };
  if (check === 'section') return { status: 'done', found: 'the section is on' };
  const has = there.keys[key];
  if (has === undefined) return unknown(`the key ${key}`);
  if (has === value) return { status: 'done', found: `${key} is ${value}` };
  return {
    status: 'to do',
    found: has === null ? `${key} is not set` : `${key} is ${has === '' ? 'empty' : has}`,
    todo: `Set ${key} = ${value} in [${section}] of ${file}.`,
  };
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
/** An instant as certificate tools write it, or as ISO 8601 does, ms; null where it is neither. */
function instantOf(text: string): number | null {
  const [, month = '', day, hour, minute, second, year] = /^(\w{3}) +(\d{1,2}) (\d{2}):(\d{2}):(\d{2}) (\d{4}) GMT$/.exec(text) ?? [];
  if (months.includes(month))
    return Date.UTC(Number(year), months.indexOf(month), Number(day), Number(hour), Number(minute), Number(second));
  const at = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/.test(text) ? Date.parse(text) : NaN;
  return Number.isNaN(at) ? null : at;
}

function ofCertificate({ file = '', days: wanted = 0 }: RecipeStep, { certificates }: HostReport, atMs: number): Found {
  const there = certificates.find((each) => each.file === file);
  const until = there?.notAfter === null || there === undefined ? null : instantOf(there.notAfter);
  if (until === null) return unknown(`until when ${file} is valid`);
  const left = Math.floor((until - atMs) / days);
  if (until < atMs) return { status: 'to do', found: `ended ${-left} days ago`, todo: `Renew the certificate in ${file}.` };
  if (left < wanted)
    return { status: 'to do', found: `valid for ${left} days, ${wanted} are wanted`, todo: `Renew the certificate in ${file}.` };
  return { status: 'done', found: `valid for ${left} days` };
}
