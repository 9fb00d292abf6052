import type { Recipe, RecipeStep } from '@underpass/contracts';
import { portKey } from './evaluate.js';
import { stepsOn } from './release.js';

/** What a step asks for, in a sentence. */
export function stepSays(step: RecipeStep): string {
  const { file = '', section = '', key = '', value = '' } = step;
  switch (step.check) {
    case 'package':
      return `${step.package} is installed`;
    case 'service':
      return `${step.service} is enabled and runs`;
    case 'section':
      return `[${section}] of ${file} is switched on`;
    case 'key':
      return `${key} = ${value} in [${section}] of ${file}`;
    case 'port':
      return `something listens on ${portKey(step)}`;
    case 'group':
      return `the group ${step.group} is there`;
    case 'certificate':
      return `the certificate in ${file} is valid${step.days ? ` for ${step.days} days more` : ''}`;
  }
}

/** A recipe as a list to be ticked off, for one release of the system or with the releases told at each step. */
export function recipeChecklist(recipe: Recipe, release?: string): string {
  const steps = release === undefined ? recipe.steps : stepsOn(recipe, release);
  const bounds = ({ from, below }: RecipeStep) =>
    release !== undefined || (from === undefined && below === undefined)
      ? ''
      : ` (${[from === undefined ? '' : `from release ${from}`, below === undefined ? '' : `below ${below}`].filter(Boolean).join(', ')})`;
  const lines = steps.map((step) => `- [ ] ${step.name}${bounds(step)}: ${stepSays(step)}.${step.todo ? ` ${step.todo}` : ''}`);
  const head = `# ${recipe.name}${release === undefined ? '' : `, release ${release}`}`;
  return [head, '', ...(recipe.about ? [recipe.about, ''] : []), ...lines, ''].join('\n');
}
