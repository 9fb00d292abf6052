import { z } from 'zod';
import { Endpoint, Screen } from '../estate/endpoint.js';
import { ClientKind, Codec } from '../estate/words.js';

/** The most screens that a desk has. */
const Screens = z.array(Screen).max(16);

/** A desk: its screens, and what they are held against. */
export const DeskAnswer = z
  .object({
    endpoint: z.string(),
    person: z.string().nullable(),
    location: z.object({ id: z.string(), name: z.string() }),
    clientKind: ClientKind,
    platform: Endpoint.shape.platform,
    mostPixels: z.number().nullable(),
    screens: Screens,
    known: z.boolean().describe('Whether anybody said which screens stand there'),
    measured: z.string().nullable().describe('When a field check saw other screens, which then count'),
    work: z.string().nullable().describe('The resource whose picture is reckoned with'),
    oneScale: z.boolean().describe('The settings give all screens one scale'),
    file: z.object({ id: z.string(), text: z.string(), there: z.boolean() }).describe('The configuration file of the endpoint'),
    version: z.number(),
  })
  .meta({ id: 'DeskAnswer' });

/** Screens as they might stand. */
export const DeskRequest = z.strictObject({ screens: Screens }).meta({ id: 'DeskRequest' });

/** What a session gets of them with each kind of client. */
export const DeskSessions = z
  .object({
    sessions: z.array(
      z.object({
        clientKind: ClientKind,
        screens: z.array(z.object({ widthPx: z.number(), heightPx: z.number(), refreshHz: z.number().nullable() })),
        left: z.number().describe('Screens that stay out of the session'),
        leftBecause: z.enum(['client', 'pixels', 'setting', 'the same']).nullable(),
        pixelsOf: z.enum(['client', 'device', 'setting']),
        shrunk: z.boolean(),
        mixedScales: z.boolean(),
        codec: Codec,
        pixels: z.number(),
        demand: z.object({ meanMbps: z.number(), p95Mbps: z.number() }).nullable().describe('What its picture asks of the line'),
      }),
    ),
  })
  .meta({ id: 'DeskSessions' });

/** An arrangement that is noted: at the endpoint, and where it is wished in the configuration file that it fetches. */
export const DeskKept = z
  .strictObject({ screens: Screens, file: z.boolean().default(false), seen: z.number().int().optional() })
  .meta({ id: 'DeskKept' });

export type DeskAnswer = z.infer<typeof DeskAnswer>;
export type DeskRequest = z.infer<typeof DeskRequest>;
export type DeskSessions = z.infer<typeof DeskSessions>;
export type DeskKept = z.infer<typeof DeskKept>;
