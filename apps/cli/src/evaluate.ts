import { kindTraits } from '@underpass/contracts';
import { evaluateCrossing, FactsReader, modelOf, noCounts } from '@underpass/core';
import { CommandError } from './commandError.js';
import { estateFrom } from './folder.js';
import type { Options } from './options.js';

const round = (value: number, digits = 2) => Math.round(value * 10 ** digits) / 10 ** digits;

/** Evaluates the crossings of an estate folder, all or those of one person, endpoint or resource. */
export function evaluate(options: Options, nowMs: number): object {
  const folder = options.positional[0];
  if (!folder) throw new CommandError('evaluate: give the estate folder');
  const { estate, measurements } = estateFrom(folder);
  const model = modelOf(estate, measurements, { traits: kindTraits });
  const [person, endpoint, resource] = [options.text('person'), options.text('endpoint'), options.text('resource')];
  if (person && !model.people.has(person)) throw new CommandError(`--person: no person has the id “${person}”`);
  if (endpoint && !model.endpoints.has(endpoint)) throw new CommandError(`--endpoint: no endpoint has the id “${endpoint}”`);
  if (resource && !model.resources.has(resource)) throw new CommandError(`--resource: no resource has the id “${resource}”`);
  const reader = new FactsReader(model, nowMs);
  const counts = noCounts();
  const crossings = model.crossings
    .filter(
      (ref) => (!person || ref.person === person) && (!endpoint || ref.endpoint === endpoint) && (!resource || ref.resource === resource),
    )
    .flatMap((ref) => {
      const facts = reader.read(ref);
      if (!facts) return [];
      const { figures: f, findings } = evaluateCrossing(facts);
      counts[f.verdict]++;
      return [
        {
          person: ref.person,
          endpoint: ref.endpoint,
          location: ref.location,
          resource: ref.resource,
          verdict: f.verdict,
          firstBroken: f.broken?.name ?? null,
          delayMs: round(f.delay.value, 1),
          frameRate: round(f.frames.value, 1),
          frameLimiter: f.frames.limiter,
          demandMbps: round(f.demand.p95Mbps),
          availableMbps: f.way.available ? round(f.way.available.value) : null,
          timeToUsableS: round(f.timeline.totalS, 1),
          voice: {
            hostMos: f.voice.host ? round(f.voice.host.mos) : null,
            endpointMos: f.voice.endpoint ? round(f.voice.endpoint.mos) : null,
          },
          findings: findings.map((finding) => ({
            kind: finding.kind,
            bay: finding.bay,
            text: finding.text,
            cost: round(finding.cost, 1),
            remedies: finding.remedies.map((remedy) => ({ text: remedy.text, effect: remedy.effectText })),
          })),
        },
      ];
    });
  return { crossings, counts };
}
