import type { CrossingView, FactsJson, SettingKey } from '@underpass/core';

/** What the server answers for one crossing. */
export interface CrossingAnswer {
  id: string;
  version: number;
  at: string;
  facts: FactsJson;
  view: CrossingView;
  why: Record<SettingKey, { value: unknown; from: string }>;
}
export type QuestionKey = 'open' | 'usable' | 'feel' | 'works';
