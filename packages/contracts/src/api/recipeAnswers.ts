import { z } from 'zod';
import { Recipe } from '../estate/recipe.js';

/** Every recipe by which hosts are prepared. */
export const RecipeList = z.object({ recipes: z.array(Recipe) }).meta({ id: 'RecipeList' });
export type RecipeList = z.infer<typeof RecipeList>;
