import { Injectable } from '@nestjs/common';
import { ConfigLayer, type Applied, type Change, type ConfigFile, type Patch, type PublishPlan } from '@underpass/contracts';
import { filesOfSettings, made, madePrefix, mergeConfig, sumOf, type EstateModel } from '@underpass/core';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';

/** Where devices sign in: as it is published, else the first gateway there is. */
function brokerOf(model: EstateModel): string | null {
  const texts = model.estate.configFile.filter(({ layer }) => layer === 'organisation').map(({ id, text }) => ({ name: id, text }));
  const told = mergeConfig(texts).values.find(({ section, key }) => section === 'broker' && key === 'address')?.value;
  return told ?? model.estate.gateway[0]?.address ?? null;
}

/**
 * Publishes what settings come to as configuration files. All are written as one change of the estate: devices see all of it or nothing,
 * what was published before stays in its history, and taking it back is one step as of any change. Files written by hand stay.
 */
@Injectable()
export class PublishService {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
  ) {}

  plan(gateway?: string): PublishPlan {
    const { model } = this.store;
    const at = gateway === undefined ? null : model.gateways.get(gateway);
    if (gateway !== undefined && !at) throw notFound('gateway', gateway);
    const broker = at?.address ?? brokerOf(model);
    const wanted = new Map(filesOfSettings(model.estate.setting, broker).map((file) => [file.id, file]));
    const there = model.estate.configFile.filter(({ id }) => id.startsWith(madePrefix));
    const files = [
      ...[...wanted.values()].map(({ id, layer, target, text }) => {
        const before = there.find((file) => file.id === id) ?? null;
        const does = before === null ? 'added' : before.text === text && isSigned(before) ? 'same' : 'changed';
        return { id, layer, target, does, before: before?.text ?? null, after: text } as const;
      }),
      ...there
        .filter(({ id }) => !wanted.has(id))
        .map(({ id, layer, target, text }) => ({ id, layer, target, does: 'removed', before: text, after: null }) as const),
    ];
    return { version: this.store.version, broker, files: files.sort((a, b) => orderOf(a) - orderOf(b) || (a.id < b.id ? -1 : 1)) };
  }

  /** Publishes what the plan says; of what was seen. */
  async publish(by: string, gateway?: string, seen?: number): Promise<Applied> {
    const patches = (): Patch[] =>
      this.plan(gateway).files.flatMap(({ id, layer, target, does, after }): Patch[] => {
        if (does === 'same') return [];
        if (after === null) return [{ do: 'remove', kind: 'configFile', id }];
        const file = { layer, target, text: after };
        const sha256 = sumOf({ id, ...file });
        return does === 'added'
          ? [{ do: 'create', kind: 'configFile', id, object: { ...file, sha256 } }]
          : [{ do: 'change', kind: 'configFile', id, set: { text: after, sha256 } }];
      });
    const count = patches().length;
    if (count === 0) throw new ProblemError(422, 'Nothing to publish', 'What is published is what the settings come to.');
    const change = (): Change => ({ patches: patches(), hypotheses: [] });
    return this.changes.apply(() => made(this.store.model, change(), Date.now()).writes, by, `Published ${count} configuration files`, {
      seen,
    });
  }
}

/** The organisation’s first, as they are merged. */
const orderOf = ({ layer }: Pick<ConfigFile, 'layer'>): number => ConfigLayer.options.indexOf(layer);
const isSigned = (file: ConfigFile): boolean => file.sha256 === undefined || file.sha256.toLowerCase() === sumOf(file);
