import type { Change, Hypothesis, Layer, ObjectKind, Patch, SettingValue } from '@underpass/contracts';
import type { SettingKey } from '../settings/index.js';

/** Nothing is changed and nothing supposed. */
export const noChange: Change = { patches: [], hypotheses: [] };

/** Whether a change does and supposes nothing. */
export const isEmpty = ({ patches, hypotheses }: Change): boolean => patches.length === 0 && hypotheses.length === 0;

/** Whether somebody can apply it: it writes something, and nothing of it waits for work outside. */
export const isApplicable = ({ patches, hypotheses }: Change): boolean => patches.length > 0 && hypotheses.length === 0;

/** A change of steps that can be applied. */
export const doing = (...patches: Patch[]): Change => ({ patches, hypotheses: [] });

/** A change that only supposes. */
export const supposing = (...hypotheses: Hypothesis[]): Change => ({ patches: [], hypotheses });

/** As if an object were otherwise: what somebody has to do out there, and no record makes true. */
export const asIf = (kind: ObjectKind, id: string, set: Record<string, unknown>): Change => supposing({ suppose: 'object', kind, id, set });

/** A setting at one place, where it replaces what stood there. */
export const settingTo = (key: SettingKey, layer: Layer, target: string, value: SettingValue): Patch => ({
  do: 'setting',
  key,
  layer,
  target,
  value,
});

/** Fields of one object with other values. */
export const fieldsTo = (kind: ObjectKind, id: string, set: Record<string, unknown>): Patch => ({ do: 'change', kind, id, set });
