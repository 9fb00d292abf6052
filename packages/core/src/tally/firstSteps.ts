import type { EstateModel } from '../estate/index.js';

/** What is best done first in an estate that has little in it. */
export interface FirstStep {
  /** What is missing, counted. */
  text: string;
  /** Screen where it is done. */
  to: string;
  action: string;
}

/** Lines that are told at once. */
const mostTold = 5;
/** An estate with so many crossings is under way, and nothing of it is looked through. */
const enough = 200;

const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/**
 * What keeps an estate from having crossings, or more of them: each counted from what is there, gone when it is done.
 * @returns at most five, the most basic first; none where the estate is under way
 */
export function firstSteps(model: EstateModel): FirstStep[] {
  if (model.crossings.length >= enough) return [];
  const steps: FirstStep[] = [];
  const { endpoints, people, resources, locations, publications, gateways } = model;
  const say = (text: string, to: string, action: string) => steps.push({ text, to, action });
  if (endpoints.size === 0) say('No endpoints yet', '/estate/list', 'Take in a list of devices');
  if (people.size === 0) say('No people yet', '/estate/list', 'Take in a list of people');
  const used = new Set([...endpoints.values()].flatMap(({ person, users }) => [...(person ? [person] : []), ...users]));
  const idle = [...people.keys()].filter((id) => !used.has(id)).length;
  if (people.size > 0 && idle > 0)
    say(`${count(idle, 'person has', 'people have')} no endpoint`, '/estate/endpoint', 'Say whose endpoints they are');
  const alone = [...endpoints.values()].filter(({ person, users }) => !person && users.length === 0).length;
  if (alone > 0)
    say(count(alone, 'endpoint waits for its person', 'endpoints wait for their people'), '/estate/endpoint', 'Say who uses them');
  if (resources.size === 0 && (people.size > 0 || endpoints.size > 0)) say('Nothing to open yet', '/estate/resource/new', 'Add a resource');
  const unseen = [...people.values()].filter(({ id }) => model.reachOf(id).held.length === 0).length;
  if (resources.size > 0 && unseen > 0 && publications.size > 0)
    say(`${count(unseen, 'person sees', 'people see')} nothing to open`, '/access', 'See who sees what');
  const nowhere = [...locations.values()].filter(({ assumed }) => assumed?.includes('lineKind')).length;
  if (nowhere > 0) say(`The line of ${count(nowhere, 'location', 'locations')} is not known`, '/estate/gaps', 'See what to measure');
  const behind = [...gateways.values()].filter(({ certificate }) => !certificate).length;
  if (behind > 0) say(`The certificate of ${count(behind, 'gateway', 'gateways')} is not known`, '/estate/gateway', 'Say what it holds');
  return steps.slice(0, mostTold);
}
