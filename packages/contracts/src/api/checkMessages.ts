import { z } from 'zod';
import { Figures } from '../estate/measurement.js';

/** Messages of the field check's WebSocket, page to server. */
export const FromPage = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('start') }),
  z.strictObject({ type: z.literal('ping'), n: z.number().int().min(0).max(1_000_000) }),
  z.strictObject({ type: z.literal('step'), step: z.enum(['round trips', 'datagrams', 'down', 'up', 'picture']) }),
  z.strictObject({ type: z.literal('offer'), sdp: z.string().max(20_000) }),
  z.strictObject({ type: z.literal('count') }),
  /** What is known so far; sent after every step, so that an interrupted check keeps its parts. */
  z.strictObject({ type: z.literal('figures'), figures: Figures, done: z.boolean() }),
]);

/** Server to page. */
export type ToPage =
  | { type: 'queued'; ahead: number }
  | { type: 'go' }
  | { type: 'pong'; n: number }
  | { type: 'answer'; sdp: string }
  | { type: 'no datagrams'; because: string }
  | { type: 'counted'; bytes: number; atMs: number }
  | { type: 'kept'; done: boolean; fromDesk: boolean }
  | { type: 'ended'; because: EndedWhy; /** Of what the server wrote down, where it failed. */ id?: string };

/** Why a check ends before it is over; the page tells it in the person's language. */
export type EndedWhy =
  | 'opened elsewhere'
  | 'open too long'
  | 'not understood'
  | 'took too long'
  | 'asked too often'
  | 'server cannot keep'
  | 'server failed';

/** What is wanted of the way by whoever is checked. */
export const CheckWanted = z.object({
  keyToPixelMs: z.number().positive(),
  framesAtLeast: z.number().positive(),
  voiceMosAtLeast: z.number().min(1).max(4.5),
  lossAtMostPercent: z.number().min(0).max(100),
  calls: z.boolean(),
  camera: z.boolean(),
});
export type CheckWanted = z.infer<typeof CheckWanted>;

/** What the page may know before it starts: names and thresholds only, no identifiers. */
export const CheckGreeting = z
  .object({
    organisation: z.string(),
    helpDesk: z.string().nullable(),
    firstName: z.string().nullable(),
    place: z.string(),
    home: z.boolean(),
    wanted: CheckWanted,
    gone: z.enum(['expired', 'revoked']).nullable().describe('Where the link is no longer good'),
  })
  .meta({ id: 'CheckGreeting' });
export type CheckGreeting = z.infer<typeof CheckGreeting>;

export type FromPage = z.infer<typeof FromPage>;
