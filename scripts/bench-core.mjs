// How fast the core evaluates: crossings a second on one core, with and without remedies, and the whole demo estate. The machine is shared:
// crossings a second are of the quietest of many short rounds.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { withShippedSets } from '../packages/contracts/dist/requirements/shipped.js';
import { kindTraits, readFolder } from '../packages/contracts/dist/index.js';
import { evaluateCrossing, FactsReader, modelOf, summariseCrossing } from '../packages/core/dist/index.js';

const folder = new URL('../demo/saltmarsh', import.meta.url).pathname;
export const demo = readFolder(new Map(readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')])));
const estate = withShippedSets(demo.estate);
const { measurements } = demo;
const now = Date.parse('2026-11-25T10:00:00Z');
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)];

function timed(runs, body) {
  const times = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    body();
    times.push(performance.now() - start);
  }
  return median(times);
}

export function benchCore() {
  const model = modelOf(estate, measurements, { traits: kindTraits });
  const reader = new FactsReader(model, now);
  const facts = model.crossings.map((ref) => reader.read(ref));
  const quietest = (rounds, evaluate) => {
    let leastMs = Infinity;
    for (let i = 0; i < 60; i++) {
      const start = performance.now();
      for (let k = 0; k < rounds; k++) facts.forEach((f) => evaluate(f));
      leastMs = Math.min(leastMs, performance.now() - start);
    }
    return Math.round((facts.length * rounds) / (leastMs / 1000));
  };
  for (let i = 0; i < 8; i++) facts.forEach((f) => [evaluateCrossing(f), summariseCrossing(f)]); // let the compiler warm up
  const whole = timed(9, () => {
    const fresh = new FactsReader(modelOf(estate, measurements, { traits: kindTraits }), now);
    for (const ref of fresh.model.crossings) summariseCrossing(fresh.read(ref));
  });
  return {
    'crossings a second, verdict and findings': quietest(4, summariseCrossing),
    'crossings a second, with every remedy evaluated': quietest(1, evaluateCrossing),
    'whole demo estate from its files’ objects to verdicts, ms': Math.round(whole * 10) / 10,
    'crossings in the demo estate': facts.length,
  };
}
if (import.meta.url === `file://${process.argv[1]}`) console.log(benchCore());
