import { Injectable } from '@nestjs/common';
import {
  ClientKind,
  type Applied,
  type Change,
  type ConfigFile,
  type DeskAnswer,
  type DeskKept,
  type DeskSessions,
  type Patch,
  type Screen,
} from '@underpass/contracts';
import {
  deskLines,
  deskSession,
  made,
  madePrefix,
  resolveSettings,
  setKey,
  settingsOf,
  subjectIn,
  sumOf,
  type CrossingFacts,
  type DeskFacts,
  type EstateModel,
  type SettingValues,
} from '@underpass/core';
import { ResultsService } from '../crossing/results.service.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';

/** Screens of one endpoint: how they stand, what a session gets of them, and how that is noted. */
@Injectable()
export class DeskService {
  constructor(
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly changes: ChangeService,
  ) {}

  desk(id: string): DeskAnswer {
    const { model } = this.store;
    const { endpoint, location, crossing } = this.at(model, id);
    const file = fileOf(model, id);
    return {
      endpoint: id,
      person: (endpoint.person && model.people.get(endpoint.person)?.name) || null,
      location: { id: location.id, name: location.name },
      clientKind: endpoint.clientKind,
      platform: endpoint.platform,
      mostPixels: endpoint.mostPixels ?? null,
      screens: endpoint.screens ?? [],
      known: endpoint.screens !== undefined,
      measured: crossing?.evidence.screens?.at ?? null,
      work: crossing?.resource.name ?? null,
      oneScale: this.settings(model, id, crossing)['screens.oneScale'],
      file: file ? { id: file.id, text: file.text, there: true } : { id, text: '', there: false },
      version: this.store.version,
    };
  }

  /** What a session gets of an arrangement, with each kind of client. */
  sessions(id: string, screens: readonly Screen[]): DeskSessions {
    const { model } = this.store;
    const { endpoint, crossing } = this.at(model, id);
    const gateway = crossing?.gateway ?? model.estate.gateway[0];
    if (!gateway) throw new ProblemError(422, 'Not known', 'The estate has no gateway, so that nobody knows what a session would be.');
    const facts: DeskFacts = { endpoint, gateway, resource: crossing?.resource ?? null };
    const settings = this.settings(model, id, crossing);
    return { sessions: ClientKind.options.map((clientKind) => deskSession(facts, settings, clientKind, screens)) };
  }

  /** Notes an arrangement at the endpoint, and where it is wished in the configuration file that the device fetches. */
  async keep(id: string, { screens, file, seen }: DeskKept, by: string): Promise<Applied> {
    const change = (): Change => {
      const { model } = this.store;
      if (!model.endpoints.has(id)) throw notFound('endpoint', id);
      const patches: Patch[] = [{ do: 'change', kind: 'endpoint', id, set: { screens: [...screens] } }];
      return { patches: file ? [...patches, filePatch(model, id, screens)] : patches, hypotheses: [] };
    };
    const summary = `Screens of ${id}${file ? ', and its configuration file' : ''}`;
    return this.changes.apply(() => made(this.store.model, change(), Date.now()).writes, by, summary, { seen });
  }

  private at(model: EstateModel, id: string) {
    const endpoint = model.endpoints.get(id);
    const location = endpoint && model.locations.get(endpoint.location);
    if (!endpoint || !location) throw notFound('endpoint', id);
    // the first of its crossings in the order of their ids, so that it is the same every time
    const [ref] = (endpoint.person === undefined ? [] : model.crossingsOf(endpoint.person)).filter((each) => each.endpoint === id);
    return { endpoint, location, crossing: (ref && this.results.reader.read(ref)) ?? null };
  }

  private settings(model: EstateModel, id: string, crossing: CrossingFacts | null): SettingValues {
    if (crossing) return settingsOf(crossing);
    const subject = subjectIn(model, id);
    if (!subject) throw notFound('endpoint', id);
    return resolveSettings(model.settings, subject);
  }
}

/** The configuration file of an endpoint that is written by hand, else none. */
const fileOf = (model: EstateModel, id: string): ConfigFile | undefined =>
  model.estate.configFile.find((file) => file.layer === 'endpoint' && file.target === id && !file.id.startsWith(madePrefix));

/** The file with the arrangement in it; all else of it stays as it is. */
function filePatch(model: EstateModel, id: string, screens: readonly Screen[]): Patch {
  const file = fileOf(model, id);
  let text = file?.text ?? '';
  for (const { key, value } of deskLines(screens)) {
    const set = setKey(text, 'screens', key, value);
    if (!set.ok)
      throw new ProblemError(422, 'Not valid', `${file?.id ?? id}: ${set.fault.place} ${set.fault.problem}; ${set.fault.remedy}.`);
    text = set.value;
  }
  if (file) return { do: 'change', kind: 'configFile', id: file.id, set: { text, sha256: sumOf({ ...file, text }) } };
  const object = { layer: 'endpoint', target: id, text };
  return { do: 'create', kind: 'configFile', id, object: { ...object, sha256: sumOf({ id, layer: 'endpoint', target: id, text }) } };
}
