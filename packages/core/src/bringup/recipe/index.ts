export { recipeChecklist, stepSays } from './checklist.js';
export { evaluateRecipe, portKey, type RecipeResult, type StepResult } from './evaluate.js';
export { isOnRelease, releaseChange, stepsOn, type ReleaseChange } from './release.js';
export { recipeScript } from './script.js';
