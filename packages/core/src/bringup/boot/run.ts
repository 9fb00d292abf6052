import { bootCauses, type BootCause } from './causes/index.js';
import type { BootMessage, BootStep, BootStepName } from './steps.js';

/** What a step comes to: what is to be said of it, or what breaks it. */
export type StepEnd = { detail: string } | Broken;
interface Broken {
  cause: BootCause;
  /** What the sentences of the cause have in braces. */
  words: Readonly<Record<string, string>>;
  /** What is said instead of them. */
  detail?: string;
}

/** Something worth knowing that keeps nothing from starting. */
export interface BootNote {
  code:
    | 'downgrade'
    | 'two servers'
    | 'short lease'
    | 'no name server'
    | 'keeps last good file'
    | 'no file'
    | 'broker not known'
    | 'cannot compare'
    | 'not compared'
    | 'named in file';
  text: string;
}

/** The log of a start while it goes on, and its clock. */
export class Run {
  readonly messages: BootMessage[] = [];
  readonly notes: BootNote[] = [];
  readonly steps: BootStep[] = [];
  private now = 0;

  get atMs(): number {
    return this.now;
  }

  wait(ms: number): void {
    this.now += ms;
  }

  say(way: BootMessage['way'], text: string, place: string | null = null): void {
    this.messages.push({ atMs: this.now, way, text, place });
  }

  note(code: BootNote['code'], text: string): void {
    this.notes.push({ code, text });
  }

  /** Takes a step; what broke it, or null where the next one is reached. */
  take(name: BootStepName, work: (run: Run) => StepEnd): Broken | null {
    const from = this.now;
    const end = work(this);
    const broken = 'cause' in end ? end : null;
    const detail = 'cause' in end ? (end.detail ?? sentence(bootCauses[end.cause].says, end.words)) : end.detail;
    this.steps.push({ name, status: broken ? 'broken' : 'done', atMs: from, durationMs: this.now - from, detail });
    return broken;
  }

  skip(name: BootStepName): void {
    this.steps.push({ name, status: 'notReached', atMs: null, durationMs: 0, detail: 'not reached' });
  }
}

/** A sentence with the words of a device in place of those in braces. */
export const sentence = (text: string, words: Readonly<Record<string, string>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => words[name] ?? whole);
