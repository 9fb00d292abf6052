import { z } from 'zod';
import { CardImage, DeviceOption } from '../estate/bringup.js';
import { Endpoint } from '../estate/endpoint.js';

const count = z.number();
/** Images that devices start from, with how many of their class they fit; and devices that still take the password they came with. */
export const ImageList = z
  .object({
    images: z.array(
      CardImage.extend({
        devices: z.object({ fits: count, notKnown: count, others: count.describe('Of its class, that it does not fit') }),
        password: CardImage.shape.password.unwrap().nullable(),
        sha256: z.string().nullable(),
      }),
    ),
    delivered: z.array(z.string()).describe('The first devices that still take the password they were delivered with'),
    deliveredCount: count,
  })
  .meta({ id: 'ImageList' });

/** A device for which a card is planned, with the place where it will stand. */
export const CardPlan = z
  .object({
    endpoint: Endpoint.pick({ id: true, deviceClass: true, processor: true, model: true, bootMode: true }),
    location: z.object({ id: z.string(), name: z.string(), timeZone: z.string() }),
    images: z.array(CardImage),
  })
  .meta({ id: 'CardPlan' });

/** Kinds of devices that could be bought. */
export const DeviceOptions = z.object({ options: z.array(DeviceOption) }).meta({ id: 'DeviceOptions' });

export type ImageList = z.infer<typeof ImageList>;
export type CardPlan = z.infer<typeof CardPlan>;
export type DeviceOptions = z.infer<typeof DeviceOptions>;
