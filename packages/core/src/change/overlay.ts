import type { Change } from '@underpass/contracts';
import type { EstateModel } from '../estate/index.js';
import { made } from './made.js';

/**
 * The estate as it would be after a change, hypotheses included. The given model stays as it is; the cost grows with the change.
 * Steps that have no place on this estate are left out; `made` tells them.
 */
export function overlay(model: EstateModel, change: Change, atMs: number): EstateModel {
  const { all, supposed } = made(model, change, atMs);
  return model.after({ writes: all, supposed });
}
