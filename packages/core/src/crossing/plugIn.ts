import type { Peripheral } from '@underpass/contracts';
import { functionCodes, nearMisses, told, written, type Decision } from '../redirection/index.js';
import { followed } from '../settings/index.js';
import { carryCosts, type CarryCosts } from './carrying.js';
import { keptOut } from './deskDevices.js';
import { deskWhy } from './deskReason.js';
import { decidedOf, deviceName, kindOf, sideOf } from './devices.js';
import type { CrossingFacts } from './facts.js';
import type { CrossingFigures } from './figures.js';
import { figure, ms } from './finding.js';

/** One step of what happens when a device is plugged in. */
export interface PlugStep {
  name: 'seen' | 'power' | 'client' | 'rule' | 'when' | 'setting' | 'taken' | 'gateway' | 'driver' | 'way';
  state: 'passes' | 'waits' | 'stops' | 'not known' | 'not reached';
  text: string;
  /** What has to be asked where it is not known: yes means that this is what stops it. */
  question?: string;
}
/** What happens when a device is plugged in on a crossing, and what its person sees. */
export interface PluggedIn {
  name: string;
  decision: Decision;
  costs: CarryCosts;
  steps: PlugStep[];
  works: boolean | null;
  sees: string;
  /** What would decide it otherwise: rules that miss in one thing alone. */
  nearly: { rule: string; field: string }[];
}
/** What somebody found out: by the name of the step, whether that is what stops it. */
export type PlugAnswers = Partial<Record<PlugStep['name'], boolean>>;

/** What a port gives, mA [USB 2.0 §7.2.1.1; USB 3.2 §11.4.1]. */
const portMa = { usb2: 500, usb3: 900 };

/**
 * What happens, step by step, when a device is plugged in: the first step that stops it is the answer. What nobody knows is asked for; an answer
 * stands in its place.
 */
export function plugIn(
  facts: CrossingFacts,
  { settings: s, session, way }: Pick<CrossingFigures, 'settings' | 'session' | 'way'>,
  device: Peripheral,
  answers: PlugAnswers = {},
): PluggedIn {
  const { endpoint, resource, gateway, location, person } = facts;
  const decision = decidedOf(facts, s, session, device);
  const rttMs = way.rttKnown ? way.rtt.value : null;
  const costs = carryCosts(device, decision.decision, { s, endpoint, rttMs });
  const kind = kindOf(device);
  const name = deviceName(device);
  const steps: PlugStep[] = [];
  let stopped: PlugStep | null = null;
  const step = (each: PlugStep) => {
    if (stopped) return void steps.push({ name: each.name, state: 'not reached', text: '' });
    const answer = answers[each.name];
    const settled: PlugStep =
      each.state === 'not known' && answer !== undefined
        ? {
            name: each.name,
            state: answer ? 'stops' : 'passes',
            text: answer ? `${each.text}: this is it` : `${each.text}: it is not that`,
          }
        : each;
    steps.push(settled);
    if (settled.state === 'stops') stopped = settled;
  };
  const codes = functionCodes(device).map(written);
  step({
    name: 'seen',
    state: 'passes',
    text: `${codes.length} ${codes.length === 1 ? 'interface' : 'interfaces'}, ${codes.join(', ')}${device.speed ? `, ${device.speed} speed` : ''}`,
  });
  const most = device.speed === 'super' ? portMa.usb3 : portMa.usb2;
  const { maxPowerMa } = device;
  if (maxPowerMa !== undefined && maxPowerMa > most)
    step({
      name: 'power',
      state: 'not known',
      text: `It takes ${maxPowerMa} mA, a port gives ${most}`,
      question: 'Does it stay dark, or go off and on, at this port?',
    });
  else
    step({ name: 'power', state: 'passes', text: maxPowerMa === undefined ? 'What it takes is not told' : `${maxPowerMa} mA of ${most}` });
  const isLocal = decision.decision === 'local only' || decision.decision === 'session input';
  const hasNoUsb = endpoint.clientKind === 'browser' && decision.rule === null;
  step({
    name: 'client',
    state: hasNoUsb && isLocal && kind ? 'stops' : 'passes',
    text: hasNoUsb ? decision.why : `a ${endpoint.clientKind} carries devices`,
  });
  const isDenied = decision.decision === 'not allowed';
  step({
    name: 'rule',
    state: isDenied || (isLocal && decision.rule !== null) ? 'stops' : 'passes',
    text: decision.rule ? `${told(decision.rule)} is the first that fits: ${decision.why}` : decision.why,
  });
  const when = decision.when ?? 'when plugged in';
  if (when === 'by hand')
    step({
      name: 'when',
      state: 'not known',
      text: 'It goes over only by hand',
      question: `Has ${person.name} never connected it in the client?`,
    });
  else
    step({
      name: 'when',
      state: when === 'at start' ? 'waits' : 'passes',
      text: when === 'at start' ? 'It goes over at the next start of the session' : 'It goes over at once',
    });
  const kept = kind && decision.decision !== 'raw USB' ? keptOut(kind, facts, s, session) : null;
  step({ name: 'setting', state: kept ? 'stops' : 'passes', text: kept ? deskWhy(kept) : 'No setting keeps it out' });
  step(takenOf(facts, s, kind));
  step(
    decision.decision === 'raw USB' && !gateway.usb
      ? { name: 'gateway', state: 'stops', text: `${gateway.name} carries no USB` }
      : { name: 'gateway', state: 'passes', text: `${gateway.name} carries it` },
  );
  if (decision.decision === 'raw USB')
    step({
      name: 'driver',
      state: 'not known',
      text: 'The host needs its driver',
      question: `Does the host of ${resource.name} show it without a driver?`,
    });
  else step({ name: 'driver', state: 'passes', text: 'The channel needs no driver on the host' });
  step(wayStep(costs, { rttMs, upMbps: way.availableUp?.value ?? null, place: location.name }));
  const unknown = steps.find(({ state }) => state === 'not known');
  const works = stopped ? false : unknown ? null : true;
  const nearly =
    works === false
      ? nearMisses(device, sideOf(facts, s, session), facts.rules).map(({ rule, field }) => ({ rule: told(rule), field }))
      : [];
  return { name, decision, costs, steps, works, sees: seen(name, stopped, unknown, steps), nearly };
}

/** What a local program or another session of the same person may hold. */
function takenOf(facts: CrossingFacts, s: CrossingFigures['settings'], kind: ReturnType<typeof kindOf>): PlugStep {
  const { endpoint, resource, elsewhere } = facts;
  const offloaded = followed(s, 'media.callOffload', endpoint) && resource.calls;
  if (kind === 'camera' && offloaded)
    return { name: 'taken', state: 'stops', text: 'The call program on the endpoint holds the camera: whichever takes it first keeps it' };
  if (elsewhere.length > 0)
    return {
      name: 'taken',
      state: 'not known',
      text: `A session of the same person is open in ${elsewhere[0]?.resourceName ?? 'another resource'}`,
      question: 'Does it stand in that session?',
    };
  return { name: 'taken', state: 'passes', text: 'Nothing else is known to hold it' };
}

/** Whether the way carries it: its rate, and what its questions wait. */
function wayStep(costs: CarryCosts, { rttMs, upMbps, place }: { rttMs: number | null; upMbps: number | null; place: string }): PlugStep {
  const { mbps, addedMs, exchanges, bearsMs } = costs;
  if (mbps !== null && upMbps !== null && mbps > upMbps)
    return { name: 'way', state: 'stops', text: `It asks ${figure(mbps)} Mbit/s, and ${place} sends ${figure(upMbps)}` };
  if (bearsMs !== null && rttMs !== null && rttMs > bearsMs)
    return { name: 'way', state: 'stops', text: `It bears ${bearsMs} ms there and back, and the way takes ${ms(rttMs)}` };
  const waits =
    exchanges > 1
      ? addedMs === null
        ? `${exchanges} questions and answers; how long each waits is not known`
        : `${exchanges} questions and answers add ${figure(addedMs / 1000)} s`
      : '';
  const asks = mbps ? `${figure(mbps)} Mbit/s` : '';
  return { name: 'way', state: 'passes', text: [asks, waits].filter(Boolean).join('; ') || 'It asks next to nothing of the line' };
}

const shown: Readonly<Record<PlugStep['name'], string>> = {
  seen: 'nothing',
  power: 'a device that stays dark, or goes on and off',
  client: 'it works at the desk, and is not in the session',
  rule: 'it works at the desk, and is not in the session',
  when: 'it works at the desk, and stands in the client’s list to be connected',
  setting: 'it is not in the session',
  taken: '“in use” in the session',
  gateway: 'it goes from the desk, and does not come up in the session',
  driver: 'an unknown device in the session',
  way: 'it comes up, and breaks off or is too slow to use',
};
function seen(name: string, stopped: PlugStep | null, unknown: PlugStep | undefined, steps: readonly PlugStep[]): string {
  if (stopped) return `The person sees: ${shown[stopped.name]}`;
  if (unknown) return `${name} works, unless: ${unknown.text}`;
  return steps.some(({ state }) => state === 'waits')
    ? `${name} works from the next start of the session on`
    : `${name} works in the session`;
}

/** Why a device does not appear: what stops it as far as is known, else the next thing to ask. */
export function whyNotThere(plugged: PluggedIn): { cause: string | null; ask: { step: PlugStep['name']; question: string } | null } {
  const stop = plugged.steps.find(({ state }) => state === 'stops');
  if (stop) return { cause: stop.text, ask: null };
  const next = plugged.steps.find(({ state, question }) => state === 'not known' && question);
  if (next?.question) return { cause: null, ask: { step: next.name, question: next.question } };
  const waits = plugged.steps.find(({ state }) => state === 'waits');
  return { cause: waits ? waits.text : null, ask: null };
}
