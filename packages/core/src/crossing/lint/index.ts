import { demandOf } from '../demandOf.js';
import { settingsOf, type CrossingFacts } from '../facts.js';
import { sessionOf } from '../session.js';
import { carriedRules } from './carried.js';
import { mediaRules } from './media.js';
import { pictureRules } from './picture.js';
import { setOn, type LintHit, type LintRule } from './rule.js';
import { securityRules } from './security.js';
import { sessionRules } from './session.js';

export type { LintHit, LintRule } from './rule.js';

/** Every check between settings. A new one is an entry in one of these lists. */
export const lintRules: readonly LintRule[] = [...pictureRules, ...mediaRules, ...securityRules, ...sessionRules, ...carriedRules];

/** What does not fit among the settings in force for a crossing, in the order of the rules. */
export function lintCrossing(facts: CrossingFacts): (LintHit & { rule: string })[] {
  const settings = settingsOf(facts);
  const session = sessionOf(facts, settings);
  const linted = { facts, settings, session, demand: demandOf(facts, settings, session), isSet: setOn(facts) };
  return lintRules.flatMap((each) => {
    const hit = each.detect(linted);
    return hit ? [{ rule: each.rule, ...hit }] : [];
  });
}
