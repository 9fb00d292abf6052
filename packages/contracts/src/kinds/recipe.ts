import { Recipe } from '../estate/recipe.js';
import { defineKind } from './defineKind.js';

export const recipe = defineKind({
  schema: Recipe,
  file: 'recipes.yaml',
  words: { one: 'Recipe', many: 'Recipes' },
  list: [
    ['name', 'Name'],
    ['from', 'From release'],
    ['below', 'Below'],
  ],
  look: 22,
  touches: 'nothing',
});
