import type { PortalEstate, PortalReport, SignonStep } from '@underpass/contracts';
import { randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { Underpass } from './client.js';
import type { Fault } from './faults.js';
import { directoryAccepts } from './reading.js';
import { emptyVisit, type Visit } from './visit.js';

/** Visits kept at once; the oldest is forgotten first. */
const mostVisits = 2000;

/** What a stand-in portal holds while it runs: who is visiting, and which faults are switched on. */
export class Running {
  readonly visits = new Map<string, Visit>();
  faults: ReadonlySet<Fault> = new Set();

  constructor(
    readonly underpass: Underpass,
    /** How long a sleeping host takes to wake, ms. */
    readonly wakeMs: number,
    private readonly secondFactorS: number,
  ) {}

  /** How long a code is good for, s. */
  get codeS(): number {
    return this.faults.has('late') ? 1 : this.secondFactorS;
  }

  visitOf(request: IncomingMessage): { token: string; visit: Visit | undefined } {
    const token = /(?:^|;\s*)portal_visit=([a-f0-9]{32})/.exec(request.headers.cookie ?? '')?.[1] ?? '';
    return { token, visit: this.visits.get(token) };
  }

  /** Begins a visit; what is given back is what its browser has to send from then on. */
  begin(portal: string, next: string): string {
    const fresh = randomBytes(16).toString('hex');
    const [oldest] = this.visits.keys();
    if (this.visits.size >= mostVisits && oldest !== undefined) this.visits.delete(oldest);
    this.visits.set(fresh, emptyVisit(portal, next));
    return `portal_visit=${fresh}; HttpOnly; SameSite=Lax; Path=/`;
  }

  report(visit: Visit, outcome: PortalReport['outcome'], opened: string | null = null): Promise<void> {
    const { person, portal, saw, steps } = visit;
    return this.underpass.report({ person, portal, at: new Date().toISOString(), outcome, saw, opened, steps });
  }

  accepts(visit: Visit, estate: PortalEstate): boolean {
    return !this.faults.has('refuse') && directoryAccepts(estate, visit.portal, visit.person, new Date().toISOString().slice(0, 10));
  }
}

/** Notes how long a step of a visit took. @param sinceMs when it began, by the same clock as performance.now */
export function took(visit: Visit, step: SignonStep, sinceMs: number): void {
  visit.steps[step] = Math.round(performance.now() - sinceMs) / 1000;
}
