import type { Demand } from '../../picture/index.js';
import { explainSetting, type SettingKey, type SettingValues } from '../../settings/index.js';
import type { CrossingFacts } from '../facts.js';
import type { Proposal } from '../finding.js';
import type { Session } from '../session.js';

/** What a rule looks at: who and what, the settings in force, and the session and picture that they come to. */
export interface Linted {
  facts: CrossingFacts;
  settings: SettingValues;
  session: Session;
  demand: Demand;
  /** Whether any layer sets a setting here: a default that does nothing is no fault of anybody. */
  isSet: (key: SettingKey) => boolean;
}

/** Settings that do not fit each other, or what they are for. */
export interface LintHit {
  /** What does not fit, in figures and words. */
  cause: string;
  /** What comes of it for the person. */
  consequence: string;
  remedy: Proposal;
}

/** One check between settings. */
export interface LintRule {
  rule: string;
  /** The settings that it is about. */
  about: readonly SettingKey[];
  detect: (linted: Linted) => LintHit | null;
}

/** Whether any layer sets a setting on a crossing. */
export const setOn =
  (facts: CrossingFacts) =>
  (key: SettingKey): boolean =>
    explainSetting(facts.settings, key, facts.subject).deciding !== null;
