import { clock } from '../day/index.js';
import type { EstateModel } from '../estate/index.js';
import type { GapAct, GapStep } from '../tally/index.js';

const nameOf = ({ kind, id }: GapAct, model: EstateModel): string =>
  (kind === 'location' ? model.locations.get(id) : kind === 'pool' ? model.pools.get(id) : model.gateways.get(id))?.name ?? id;

function actText(act: GapAct, model: EstateModel): string {
  const name = nameOf(act, model);
  const about = act.hour === null ? '' : `, about ${clock(act.hour)}`;
  switch (act.way) {
    case 'field check':
      return `${act.times === 1 ? 'one field check' : `a field check on each of ${act.times} endpoints`} at ${name}${about}`;
    case 'report of the hosts':
      return `a report of the hosts of ${name}`;
    case 'look at the gateway':
      return `a look at ${name}`;
    case 'look at the device':
      return act.times === 1 ? `a look at one device at ${name}` : `a look at each of ${act.times} devices at ${name}`;
    case 'ask for what is assumed':
      return `one question about ${name}`;
    case 'timed sign-in':
      return act.times === 1 ? `one timed sign-in at ${name}` : `a timed sign-in on each of ${act.times} endpoints at ${name}`;
  }
}

/** What is done in a step, in a sentence without its end. @example One field check at Wexcombe, and a look at Main gateway */
export function tellGapStep({ acts }: GapStep, model: EstateModel): string {
  const parts = acts.map((act) => actText(act, model));
  const text = parts.length < 2 ? (parts[0] ?? '') : `${parts.slice(0, -1).join(', ')}, and ${parts.at(-1)}`;
  return text.charAt(0).toUpperCase() + text.slice(1);
}
