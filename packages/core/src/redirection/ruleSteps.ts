import type { Change, Patch, Peripheral, UsbRule } from '@underpass/contracts';

const step = 10;

/** The ranks that put rules into an order: only those that have to change are written. */
export function orderedAs(rules: readonly UsbRule[], order: readonly string[]): Change {
  const byId = new Map(rules.map((rule) => [rule.id, rule]));
  const patches: Patch[] = [];
  let last = -1;
  for (const id of order) {
    const rule = byId.get(id);
    if (!rule) continue;
    let { rank } = rule;
    if (rank <= last) {
      rank = last + step;
      patches.push({ do: 'change', kind: 'usbRule', id, set: { rank } });
    }
    last = rank;
  }
  return { patches, hypotheses: [] };
}

/** Moves one rule to another place among the others. */
export function moved(order: readonly string[], id: string, to: number): string[] {
  const rest = order.filter((each) => each !== id);
  rest.splice(Math.max(0, Math.min(rest.length, to)), 0, id);
  return rest;
}

/** An id that no rule has. */
const freeId = (rules: readonly UsbRule[], wanted: string): string => {
  const ids = new Set(rules.map(({ id }) => id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? wanted : `${wanted}-${n}`;
    if (!ids.has(id)) return id;
  }
};

/**
 * A rule that lets a device through, put before the one that decides it now. Where it names functions, the device is split by interface, and what is
 * not named stays at the desk.
 * @param rules in their order
 * @param classes codes of the functions that go through; null lets all of it
 * @param decidedBy id of the rule that decides; null where none does
 */
export function lettingThrough(
  rules: readonly UsbRule[],
  device: Peripheral,
  classes: readonly string[] | null,
  decidedBy: string | null,
): Change {
  const id = freeId(rules, `${classes ? 'split' : 'let'}-${device.vid}-${device.pid}`);
  const at = rules.findIndex((rule) => rule.id === decidedBy);
  const name = device.name ?? `${device.vid}:${device.pid}`;
  const rule: UsbRule = {
    id,
    name: `${name.slice(0, 100)}, ${classes ? 'by function' : 'let through'}`,
    rank: 0,
    action: 'allow',
    match: { vid: device.vid, pid: device.pid },
    ...(classes ? { interfaces: [...classes] } : {}),
  };
  const lastRank = rules.at(-1)?.rank ?? 0;
  const before = at < 0 ? lastRank : (rules[at - 1]?.rank ?? -1);
  const here = at < 0 ? lastRank + 2 * step : (rules[at]?.rank ?? 0);
  // between the two where there is room, else the later ones move on
  const rank = here - before > 1 ? before + Math.max(1, Math.floor((here - before) / 2)) : here;
  const create: Patch = { do: 'create', kind: 'usbRule', id, object: { ...rule, rank } };
  if (here - before > 1) return { patches: [create], hypotheses: [] };
  const later = rules
    .slice(Math.max(0, at))
    .map((each): Patch => ({ do: 'change', kind: 'usbRule', id: each.id, set: { rank: each.rank + step } }));
  return { patches: [create, ...later], hypotheses: [] };
}
