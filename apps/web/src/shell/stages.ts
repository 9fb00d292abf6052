import { accessStage } from '../access/stage.js';
import { boardStage } from '../board/stage.js';
import { bringupStage } from '../bringup/stage.js';
import { crossingsStage } from '../crossings/stage.js';
import { estateStage } from '../estate/stage.js';
import { intakeStage } from '../intake/stage.js';
import { signinStage } from '../signin/stage.js';
import { settingsStage } from '../settings/stage.js';
import { signonStage } from '../signon/stage.js';
import { viewsStage } from '../views/stage.js';
import type { LiveEvent, Stage, StageAction } from './stage.js';

/** Every stage, in the order of the menu. */
export const stages: readonly Stage[] = [
  boardStage,
  crossingsStage,
  bringupStage,
  accessStage,
  settingsStage,
  signonStage,
  estateStage,
  intakeStage,
  viewsStage,
  signinStage,
];

export const menu = stages.flatMap(({ menu }) => (menu ? [menu] : []));

/** What can be done everywhere. */
export const actionsOfStages: readonly StageAction[] = stages.flatMap(({ menu, actions = [] }) => [
  ...(menu ? [{ name: menu.name, to: menu.to }] : []),
  ...actions,
]);

/** The first words of all query keys that an event makes old. */
export const livesOn = (event: LiveEvent): string[] => [...new Set(stages.flatMap(({ live }) => live?.[event] ?? []))];
