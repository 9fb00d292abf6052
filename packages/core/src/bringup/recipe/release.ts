import type { Recipe, RecipeStep } from '@underpass/contracts';
import { compareVersions } from '../../settings/index.js';

/** Whether a release lies from one on and below another; ends that are not given are open. */
export const isOnRelease = ({ from, below }: Pick<RecipeStep, 'from' | 'below'>, release: string): boolean =>
  (from === undefined || compareVersions(release, from) >= 0) && (below === undefined || compareVersions(release, below) < 0);

/** The steps that there are on a release, in their order. */
export const stepsOn = ({ steps }: Pick<Recipe, 'steps'>, release: string): RecipeStep[] =>
  steps.filter((step) => isOnRelease(step, release));

/** What another release does to a preparation. */
export interface ReleaseChange {
  /** Steps that were none before: what the newer one does not bring any more by itself. */
  added: RecipeStep[];
  dropped: RecipeStep[];
  /** Steps of one name that are others now. */
  changed: { before: RecipeStep; after: RecipeStep }[];
  same: RecipeStep[];
  /** Whether the recipe is for the release at all. */
  applies: boolean;
}

/** Shows which steps appear, vanish or become others when a host goes from one release to another, up or down. */
export function releaseChange(recipe: Recipe, before: string, after: string): ReleaseChange {
  const [old, now] = [stepsOn(recipe, before), stepsOn(recipe, after)];
  const gone = old.filter(({ id }) => !now.some((step) => step.id === id));
  const fresh = now.filter(({ id }) => !old.some((step) => step.id === id));
  const changed = gone.flatMap((step) => {
    const other = fresh.find(({ name }) => name === step.name);
    return other ? [{ before: step, after: other }] : [];
  });
  return {
    added: fresh.filter((step) => !changed.some((each) => each.after === step)),
    dropped: gone.filter((step) => !changed.some((each) => each.before === step)),
    changed,
    same: now.filter((step) => old.includes(step)),
    applies: isOnRelease(recipe, after),
  };
}
