import { doing, noChange } from '../../../change/index.js';
import { cost, type FindingKind } from '../../finding.js';
import { plural } from '../../../units/words.js';
import { closedGate, editOfCondition } from '../../requirementFacts.js';

/** A requirement set that lets people in is not met. */
export const gateClosed: FindingKind = {
  kind: 'a condition for getting in is not met',
  bay: 'Gateway',
  weight: 'blocked',
  detect: (facts, { broken, settings, host }) => {
    if (broken?.reason !== 'gate closed') return null;
    const gate = closedGate(facts, settings, host);
    const unmet = gate?.result.conditions.filter((each) => each.state === 'not met') ?? [];
    const [first] = unmet;
    if (!gate || !first) return null;
    const more = unmet.length - 1;
    return {
      text: `${facts.person.name} gets a refusal that says nothing. Not met: ${first.condition.name}${more ? ` and ${plural(more, 'other condition')}` : ''}`,
      cost: cost.blocked,
      costText: 'cannot sign in',
      sure: 'sure',
      evidence: () => unmet.map(({ condition }) => ({ source: 'declared', text: `${condition.bay}: ${condition.name}` })),
      remedies: () =>
        unmet.map(({ condition }) => {
          const edit = editOfCondition(condition, facts, host);
          return {
            text: `${condition.remedy} (${condition.who.charAt(0).toLowerCase()}${condition.who.slice(1)})`,
            change: edit ? doing(edit) : noChange,
            ...(edit ? {} : { ask: 'one condition less stands in the way' }),
          };
        }),
    };
  },
};
