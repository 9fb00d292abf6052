import { Injectable } from '@nestjs/common';
import type {
  BringupBoot,
  BringupPlace,
  BringupPlaces,
  Change,
  Endpoint,
  TelephoneFacts,
  TransferAnswer,
  TransferQuery,
} from '@underpass/contracts';
import { boot, bootSteps, made, mendOf, rebase, type Boot, type BootFacts, type EstateModel } from '@underpass/core';
import { EstateStore } from '../estate/estate.store.js';
import { eachInSlices, KeptAnswers } from '../jobs/slices.js';
import { notFound } from '../problems/problem.js';
import { readerOf } from './readerOf.js';
import { telephoneFacts } from './telephone.js';
import { transferTo } from './transfer.js';
import { ReportService } from './report.service.js';

/** Devices of another place that are tried for one that starts. */
const mostTried = 500;
/** How devices come to their first sign-in: simulated from the estate as it stands. */
@Injectable()
export class BringupService {
  private readonly kept = new KeptAnswers<BringupPlaces>();

  constructor(
    private readonly store: EstateStore,
    private readonly reports: ReportService,
  ) {}

  /** Every place with what stops its devices. */
  places(): Promise<BringupPlaces> {
    const { model } = this.store;
    const reader = readerOf(model);
    return this.kept.get(reader, '', async () => {
      const tallies = new Map<string, Tally>();
      let others = 0;
      await eachInSlices(model.estate.endpoint, ({ id, deviceClass, location }) => {
        if (!reader.isDescribed(deviceClass)) return void others++;
        const facts = reader.read(id);
        if (!facts) return;
        let tally = tallies.get(location);
        if (!tally) tallies.set(location, (tally = new Tally(facts.location)));
        tally.add(boot(facts));
      });
      const places = [...tallies.values()].map((tally) => tally.told());
      return { places: places.sort((a, b) => b.devices - b.ready - (a.devices - a.ready) || (a.name < b.name ? -1 : 1)), others };
    });
  }

  /** The devices of a place, those that stop first. */
  async place(id: string): Promise<BringupPlace> {
    const { model } = this.store;
    const location = model.locations.get(id);
    if (!location) throw notFound('location', id);
    const starts = this.startsAt(model, id);
    const reported = await this.reports.of(starts.map(({ endpoint }) => endpoint.id));
    const devices = starts.map(({ endpoint, start }) => ({
      id: endpoint.id,
      deviceClass: endpoint.deviceClass,
      person: (endpoint.person && model.people.get(endpoint.person)?.name) || null,
      done: start.steps.filter(({ status }) => status === 'done').length,
      isNew: endpoint.reportedAt === undefined,
      broken: start.broken && { step: start.broken.step, code: start.broken.code, cause: start.broken.cause, mend: start.broken.mend },
      firmware: installs(start),
      totalMs: start.totalMs,
      notes: start.notes,
      reported: reported.get(endpoint.id) ?? null,
    }));
    // those that stop first, the earliest step before; then those with something to say; then by name
    const order = ({ broken, done, notes }: (typeof devices)[number]) => (broken ? done : notes.length ? 100 : 101);
    devices.sort((a, b) => order(a) - order(b) || (a.id < b.id ? -1 : 1));
    const scopes = model.estate.scope.filter((scope) => scope.location === id);
    const known = scopes.flatMap(({ free }) => (free === undefined ? [] : [free]));
    const addresses = {
      free: known.length ? known.reduce((sum, free) => sum + free, 0) : null,
      wanted: starts.filter(({ endpoint }) => endpoint.reportedAt === undefined).length,
    };
    const { name, security } = location.wifi ?? {};
    const network = name === undefined ? null : { name, ...(security === undefined ? {} : { security }) };
    const undescribed = [...(model.endpointsAt.get(id) ?? [])].filter((each) => {
      const endpoint = model.endpoints.get(each);
      return endpoint?.platform === 'thin' && endpoint.reportedAt === undefined && !readerOf(model).isDescribed(endpoint.deviceClass);
    }).length;
    return { id, name: location.name, steps: [...bootSteps], network, undescribed, addresses, devices };
  }

  /** The start of a device, beside one like it that starts, with the edit that mends what stops it. */
  async boot(id: string): Promise<BringupBoot> {
    const { model } = this.store;
    const facts = readerOf(model).read(id);
    if (!facts) throw notFound('endpoint', id);
    const { endpoint, location } = facts;
    const { broken, config, firmware, ...start } = boot(facts);
    const here = broken ? this.startsAt(model, location.id).filter((each) => each.endpoint.id !== id) : [];
    return {
      ...start,
      endpoint: id,
      location: { id: location.id, name: location.name },
      deviceClass: endpoint.deviceClass,
      broken: broken && {
        ...told(broken),
        alike: here.filter((each) => each.start.broken?.cause === broken.cause).length,
        remedy: this.remedy(model, facts, { broken }),
      },
      values: config?.values ?? [],
      firmware: firmware && { does: firmware.does, version: firmware.offered?.version ?? null },
      reported: (await this.reports.of([id])).get(id) ?? null,
      like: this.like(model, facts),
    };
  }

  /** How what the devices of a place will install comes to them. */
  transfer(id: string, query: TransferQuery): TransferAnswer {
    const answer = transferTo(this.store.model, id, query, Date.now());
    if (!answer) throw notFound('location', id);
    return answer;
  }

  telephone(id: string): TelephoneFacts {
    return telephoneFacts(this.store.model, id);
  }

  private startsAt(model: EstateModel, location: string): { endpoint: Endpoint; start: Boot }[] {
    const reader = readerOf(model);
    return [...(model.endpointsAt.get(location) ?? [])].flatMap((id) => {
      const facts = reader.read(id);
      return facts && reader.isDescribed(facts.endpoint.deviceClass) ? [{ endpoint: facts.endpoint, start: boot(facts) }] : [];
    });
  }

  /** What the edit that mends it comes to at the place: how many more start, and after how long this one does. */
  private remedy(model: EstateModel, facts: BootFacts, { broken }: Pick<Boot, 'broken'>): NonNullable<BringupBoot['broken']>['remedy'] {
    const patches = broken && mendOf(facts, broken);
    if (!patches?.length) return null;
    const change: Change = { patches, hypotheses: [] };
    const after = model.after({ writes: made(model, change, Date.now()).writes });
    const starting = (of: EstateModel) => this.startsAt(of, facts.location.id).filter(({ start }) => !start.broken);
    const then = starting(after);
    const own = then.find(({ endpoint }) => endpoint.id === facts.endpoint.id);
    // with what stands there now, so that it is told where somebody changes that before it is noted
    return { change: rebase(model, change).change, starts: then.length - starting(model).length, afterMs: own?.start.totalMs ?? null };
  }

  /** Another of the same class that reaches its sign-in screen: of the same place, else of any. */
  private like(model: EstateModel, { endpoint, location }: BootFacts): BringupBoot['like'] {
    const reader = readerOf(model);
    const near = [...(model.endpointsAt.get(location.id) ?? [])];
    const far = model.estate.endpoint.filter((each) => each.deviceClass === endpoint.deviceClass).slice(0, mostTried);
    for (const id of [...near, ...far.map((each) => each.id)]) {
      const facts = id === endpoint.id ? null : reader.read(id);
      if (facts?.endpoint.deviceClass !== endpoint.deviceClass) continue;
      const { broken, steps, totalMs } = boot(facts);
      if (!broken) return { endpoint: id, location: facts.location.name, samePlace: facts.location.id === location.id, steps, totalMs };
    }
    return null;
  }
}

/** What a device installs at its next start. */
const installs = ({ firmware }: Boot): BringupPlace['devices'][number]['firmware'] =>
  firmware?.offered && (firmware.does === 'up' || firmware.does === 'down')
    ? { version: firmware.offered.version, sizeMB: firmware.offered.sizeMB }
    : null;

/** What is told of a break: without the pieces of its sentences. */
const told = ({ words: _, ...broken }: NonNullable<Boot['broken']>) => broken;

/** Counts the starts of a place. */
class Tally {
  private devices = 0;
  private ready = 0;
  private downgrades = 0;
  private readonly stops = new Map<string, { step: string; code: string; devices: number }>();

  constructor(private readonly location: { id: string; name: string }) {}

  add({ broken, notes }: Boot): void {
    this.devices++;
    if (notes.some(({ code }) => code === 'downgrade')) this.downgrades++;
    if (!broken) return void this.ready++;
    const stop = this.stops.get(broken.code) ?? { step: broken.step, code: broken.code, devices: 0 };
    this.stops.set(broken.code, { ...stop, devices: stop.devices + 1 });
  }

  told(): BringupPlaces['places'][number] {
    const { id, name } = this.location;
    const { devices, ready, downgrades } = this;
    return { id, name, devices, ready, downgrades, stops: [...this.stops.values()].sort((a, b) => b.devices - a.devices) };
  }
}
