import { z } from 'zod';
import { Key } from './fields.js';
import { ClientKind, DeviceClass, Layer, LineKind, Ownership } from './words.js';

/** One condition a layer's entry may carry: every field given must hold. */
export const SettingCondition = z.strictObject({
  ownership: Ownership.optional(),
  lineKind: LineKind.optional(),
  metered: z.boolean().optional(),
  clientKind: ClientKind.optional(),
  guest: z.boolean().optional(),
  inside: z.boolean().optional(),
});

export const SettingValue = z.union([z.boolean(), z.number(), z.string().max(200), z.array(z.string().max(200)).max(200)]);

export const Setting = z
  .strictObject({
    id: Key,
    key: z
      .string()
      .max(80)
      .regex(/^[a-z]+\.[a-zA-Z]+$/, 'must be a setting key such as picture.frameCap'),
    layer: Layer,
    target: z.string().min(1).max(64).describe('The device class, location, group, person or endpoint it is for; * for the organisation'),
    value: SettingValue,
    condition: SettingCondition.optional(),
    locked: z.boolean().default(false).describe('Stops every nearer layer'),
  })
  .superRefine(({ layer, target }, context) => {
    const wrong = (message: string) => context.addIssue({ code: 'custom', path: ['target'], message });
    if (layer === 'organisation' && target !== '*') wrong('must be * for the organisation');
    if (layer === 'device class' && !DeviceClass.options.includes(target as DeviceClass))
      wrong(`must be one of ${DeviceClass.options.join(', ')}`);
  })
  .meta({ id: 'Setting' });

export type SettingCondition = z.infer<typeof SettingCondition>;
export type SettingValue = z.infer<typeof SettingValue>;
export type Setting = z.infer<typeof Setting>;
