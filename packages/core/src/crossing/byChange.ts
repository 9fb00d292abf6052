import type { Change, SettingValue } from '@underpass/contracts';

type Nested<V> = Map<string, Map<string, Map<SettingValue, V>>>;

/**
 * What belongs to changes, forgotten all at once where there are too many. Most changes are one setting or one line, which are told apart
 * by what they say; making one text of each would cost more than what is looked up.
 */
export class ByChange<V> {
  private readonly settings: Nested<V> = new Map();
  private readonly others = new Map<string, V>();
  private count = 0;

  constructor(private readonly most: number) {}

  get(change: Change): V | undefined {
    const setting = settingOf(change);
    if (!setting) return this.others.get(keyOf(change));
    return this.settings.get(setting.target)?.get(setting.key)?.get(setting.value);
  }

  set(change: Change, value: V): void {
    if (this.count >= this.most) this.forget();
    this.count++;
    const setting = settingOf(change);
    if (!setting) return void this.others.set(keyOf(change), value);
    let byKey = this.settings.get(setting.target);
    if (!byKey) this.settings.set(setting.target, (byKey = new Map()));
    let byValue = byKey.get(setting.key);
    if (!byValue) byKey.set(setting.key, (byValue = new Map()));
    byValue.set(setting.value, value);
  }

  /** All at once: what is still asked for is made again. */
  private forget(): void {
    this.settings.clear();
    this.others.clear();
    this.count = 0;
  }
}

/** The one setting that a change writes at a location; null for every other change. */
function settingOf({ patches, hypotheses }: Change): { target: string; key: string; value: SettingValue } | null {
  const [patch] = patches;
  if (patches.length !== 1 || hypotheses.length > 0 || patch?.do !== 'setting') return null;
  // a place and an endpoint may have the same id
  if (patch.layer !== 'location' || patch.was !== undefined || typeof patch.value === 'object') return null;
  return patch;
}

function keyOf(change: Change): string {
  const { patches, hypotheses } = change;
  const [line] = hypotheses;
  if (patches.length > 0 || hypotheses.length !== 1 || line?.suppose !== 'line') return JSON.stringify(change);
  const { kind, id, roundTripMs, jitterMs, lossPercent, udp, downMbps, upMbps } = line;
  return `${kind}|${id}|${roundTripMs}|${jitterMs}|${lossPercent}|${udp}|${downMbps}|${upMbps}`;
}
