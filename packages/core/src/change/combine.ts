import type { Change, Patch } from '@underpass/contracts';

type Changing = Extract<Patch, { do: 'change' }>;

/** The thing a step writes; a move writes many. */
const keyOf = (patch: Patch): string | null =>
  patch.do === 'move' ? null : patch.do === 'setting' ? `${patch.key}@${patch.layer}/${patch.target}` : `${patch.kind}/${patch.id}`;

const touches = (record: Record<string, unknown> | undefined, path: string): boolean =>
  Object.keys(record ?? {}).some((other) => other === path || other.startsWith(`${path}.`) || path.startsWith(`${other}.`));

/** Two steps on the fields of one object as one; null where their order matters to the same field in a way that one step cannot say. */
function mergedFields(first: Changing, second: Changing): Changing | null {
  const lists = [
    ...Object.keys(first.add ?? {}),
    ...Object.keys(first.drop ?? {}),
    ...Object.keys(second.add ?? {}),
    ...Object.keys(second.drop ?? {}),
  ];
  const fields = { ...first.set, ...second.set };
  if (lists.some((path) => touches(fields, path))) return null;
  // a nested field and the whole it stands in: the order decides
  if (Object.keys(second.set ?? {}).some((path) => first.set && !(path in first.set) && touches(first.set, path))) return null;
  const add: Record<string, string[]> = {};
  const drop: Record<string, string[]> = {};
  for (const path of new Set(lists)) {
    const [a, b] = [first.add?.[path] ?? [], second.add?.[path] ?? []];
    const gone = second.drop?.[path] ?? [];
    const dropped = [...new Set([...(first.drop?.[path] ?? []), ...gone])];
    const added = [...new Set([...a.filter((entry) => !gone.includes(entry)), ...b])];
    if (added.length) add[path] = added;
    if (dropped.length) drop[path] = dropped;
  }
  const was = { ...second.was, ...first.was };
  const some = (record: object) => Object.keys(record).length > 0;
  const { kind, id } = first;
  return {
    do: 'change',
    kind,
    id,
    ...(some(fields) ? { set: fields } : {}),
    ...(some(was) ? { was } : {}),
    ...(some(add) ? { add } : {}),
    ...(some(drop) ? { drop } : {}),
  };
}

/** Two steps on the same thing as the steps that do the same; null where they stay two. */
function merged(first: Patch, second: Patch): Patch[] | null {
  if (first.do === 'setting' && second.do === 'setting') {
    const both = Array.isArray(first.value) && Array.isArray(second.value);
    const value = both ? [...new Set([...(first.value as string[]), ...(second.value as string[])])] : second.value;
    // a list over a plain value, or the other way round, depends on what stands there
    if (!both && (Array.isArray(first.value) || Array.isArray(second.value))) return null;
    return [{ ...second, value, ...(first.was === undefined ? {} : { was: first.was }) }];
  }
  // whether something is created where it is there already shows on an estate only, so that stays as it is
  if (first.do === 'change' && second.do === 'change') {
    const one = mergedFields(first, second);
    return one ? [one] : null;
  }
  if (first.do === 'change' && second.do === 'remove') return [{ do: 'remove', kind: second.kind, id: second.id }];
  return null;
}

/** A setting at a place and an object of that kind may be the same entry. */
const crosses = (a: Patch, b: Patch): boolean => a.do === 'setting' && b.do !== 'setting' && b.do !== 'move' && b.kind === 'setting';

/** One change that does what two do one after the other, with what they say of the same thing brought together. */
export function combine(first: Change, second: Change): Change {
  const patches: Patch[] = [];
  for (const patch of [...first.patches, ...second.patches]) {
    const key = keyOf(patch);
    // only the last step on the same thing, with no move of people since that could stand between the two
    const barrier = patches.findLastIndex((each) => each.do === 'move' || crosses(each, patch) || crosses(patch, each));
    const at = key === null ? -1 : patches.findLastIndex((each) => keyOf(each) === key);
    const known = at > barrier ? patches[at] : undefined;
    const together = known && merged(known, patch);
    if (together) patches.splice(at, 1, ...together);
    else patches.push(patch);
  }
  return { patches, hypotheses: [...first.hypotheses, ...second.hypotheses] };
}
