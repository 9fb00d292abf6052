import type { CrossingBetween } from '@underpass/contracts';
import type { CrossingView, SettingKey } from '@underpass/core';

/** What the server answers for one crossing. */
export interface CrossingAnswer {
  id: string;
  version: number;
  at: string;
  between: CrossingBetween;
  view: CrossingView;
  why: Record<SettingKey, { value: unknown; from: string }>;
}
export type QuestionKey = 'open' | 'usable' | 'feel' | 'works';
