import { z } from 'zod';
import { Vantage } from '../estate/words.js';
import '../files/wording.js';
import { EntryLinkRequest, RecordingRequest, SeenRequest } from './access.js';
import { Named } from './accessAnswers.js';
import { MeasurementRequest } from './requests.js';

/** An object that is chosen by name in a form, as its id; where none is, it says what to choose. */
const chosen = (what: string) =>
  Named.nullable().transform((named, context) => {
    if (named) return named.id;
    context.addIssue({ code: 'custom', message: what });
    return z.NEVER;
  });
const maybe = Named.nullable().transform((named) => named?.id);

/** A measurement as a form holds it. */
export const MeasurementForm = z
  .object({
    text: z.string().refine((text) => text.trim() !== '', 'Paste what the program printed, or read its file.'),
    vantage: Vantage,
    location: chosen('Choose the location where it was taken.'),
    endpoint: maybe,
    target: maybe,
    medium: z.enum(['not told', 'wired', 'wifi']),
  })
  .transform(({ medium, ...others }): z.input<typeof MeasurementRequest> => ({
    ...others,
    medium: medium === 'not told' ? undefined : medium,
  }))
  .pipe(MeasurementRequest);

/** Links to make, as a form holds them. */
export const EntryLinkForm = z
  .object({
    resource: chosen('Choose the resource it opens.'),
    targetKind: EntryLinkRequest.shape.targetKind,
    target: chosen('Choose whom it is for.'),
    every: z.enum(['each', 'one']),
    caption: z.string(),
    days: z.enum(['30', '180', '365', '1095']),
  })
  .transform(({ every, days, ...others }): z.input<typeof EntryLinkRequest> => ({
    ...others,
    everyEndpoint: others.targetKind === 'location' && every === 'each',
    days: Number(days),
  }))
  .pipe(EntryLinkRequest);

const RecordedAt = RecordingRequest.pick({ location: true, endpoint: true, person: true });

/** Where a recorded sign-in was recorded, as a form holds it. */
export const RecordingForm = z
  .object({ location: chosen('Choose the location it was recorded at.'), endpoint: maybe, person: maybe })
  .transform((at): z.input<typeof RecordedAt> => at)
  .pipe(RecordedAt);

/** What somebody who tests saw, as a form holds it: an empty note is none. */
export const SeenForm = z
  .object({ saw: z.array(z.string()), note: z.string() })
  .transform(({ saw, note }): z.input<typeof SeenRequest> => ({ saw, ...(note.trim() === '' ? {} : { note }) }))
  .pipe(SeenRequest);
