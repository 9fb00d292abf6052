import { z } from 'zod';
import { Decoder, Screen } from './endpoint.js';
import { Instant, Key } from './fields.js';
import { SignonStep, Vantage } from './words.js';

const Ms = z.number().min(0).max(120_000);
const Mbps = z.number().min(0).max(400_000);

/** Round trips of one run. Percentiles are of type 7, the interval is the 95 % interval of the median. */
export const RoundTrips = z.strictObject({
  samples: z.number().int().min(0).max(1_000_000),
  lost: z.number().int().min(0).max(1_000_000).default(0),
  minMs: Ms,
  medianMs: Ms,
  p95Ms: Ms,
  p99Ms: Ms.optional(),
  maxMs: Ms.optional(),
  jitterMs: Ms.optional(),
  medianLowMs: Ms,
  medianHighMs: Ms,
});

export const Datagrams = z.strictObject({
  passes: z.boolean(),
  sent: z.number().int().min(0).max(1_000_000).optional(),
  lost: z.number().int().min(0).max(1_000_000).optional(),
  overtaken: z.number().int().min(0).max(1_000_000).optional(),
  jitterMs: Ms.optional(),
});

export const DrawnScene = z.strictObject({
  renderer: z.string().max(300),
  drawnBy: z.enum(['processor', 'graphics']).optional(),
  frames: z.number().int().min(0),
  averageFps: z.number().min(0).max(1000),
  low1Fps: z.number().min(0).max(1000),
});

/** What a browser says of the device it runs on; most say only some of it. */
export const BrowserDevice = z.strictObject({
  mobile: z.boolean().optional(),
  architecture: z.enum(['x86', 'arm']).optional(),
  bits: z.union([z.literal(32), z.literal(64)]).optional(),
  cores: z.number().int().min(1).max(1024).optional(),
  memoryGB: z.number().min(0.25).max(1024).optional().describe('Rounded down to a class, and never told above 8 or 32'),
  connection: z.enum(['wired', 'wifi']).optional(),
});

export const BrowserFacts = z.strictObject({
  kind: z.string().max(60),
  version: z.string().max(60),
  touch: z.boolean(),
  can: z.partialRecord(
    z.enum(['clipboard', 'fullScreen', 'keyboardLock', 'secondScreen', 'usb', 'camera', 'microphone', 'webgl', 'webCodecs', 'webrtc']),
    z.boolean(),
  ),
  device: BrowserDevice.optional(),
});

export const DecodeAnswer = z.strictObject({
  codec: z.enum(['h264', 'hevc', 'vp9', 'av1']),
  mode: z.enum(['1080p30', '1080p60', '2160p30', '2160p60']),
  supported: z.boolean(),
  smooth: z.boolean(),
  hardware: z.boolean(),
});

/** Something plugged in, as a browser tells it: a camera, a microphone, a speaker; a device by its codes where its person let the browser see it. */
export const PluggedIn = z
  .string()
  .max(400)
  .regex(
    /^(camera|microphone|speaker|usb [0-9a-f]{4}:[0-9a-f]{4}( [0-9a-f]{2}\/[0-9a-f]{2}\/[0-9a-f]{2}){0,32}|hid [0-9a-f]{4}:[0-9a-f]{4})$/,
    'must be camera, microphone, speaker, or usb or hid with vendor and product, such as usb f1a5:0101 01/01/00',
  );

/** Every fact a measurement may carry. What was not measured is absent, never zero. */
export const Figures = z.strictObject({
  roundTrips: RoundTrips.optional(),
  addedDownMs: Ms.optional().describe('Median round trip while the line fills downwards minus the idle median'),
  addedUpMs: Ms.optional(),
  datagrams: Datagrams.optional(),
  downMbps: Mbps.optional(),
  upMbps: Mbps.optional(),
  screens: z.array(Screen).max(16).optional(),
  decodes: z.array(DecodeAnswer).max(40).optional(),
  decoders: z.array(Decoder).max(40).optional(),
  scene: DrawnScene.optional(),
  browser: BrowserFacts.optional(),
  plugged: z.array(PluggedIn).max(40).optional().describe('What is plugged in, as far as the browser may see it'),
  signon: z.partialRecord(SignonStep, z.number().min(0).max(3600)).optional().describe('Seconds of each step of a sign-in that was timed'),
});

export const Measurement = z
  .strictObject({
    id: Key,
    at: Instant,
    by: z.string().min(1).max(120),
    method: z.enum(['field check', 'ping', 'fping', 'iperf3', 'round trips', 'recorded sign-in', 'portal report']),
    vantage: Vantage,
    person: Key.optional(),
    endpoint: Key.optional(),
    location: Key,
    target: Key.optional().describe(
      'Region that was measured to; where it is not told, the way to the nearest gateway is taken to be meant',
    ),
    medium: z
      .enum(['wired', 'wifi'])
      .optional()
      .describe('How the device was connected; where it is not told, as the endpoint is recorded'),
    partial: z.boolean().default(false),
    note: z.string().max(300).optional(),
    figures: Figures,
  })
  .meta({ id: 'Measurement' });

export type RoundTrips = z.infer<typeof RoundTrips>;
export type Datagrams = z.infer<typeof Datagrams>;
export type DrawnScene = z.infer<typeof DrawnScene>;
export type BrowserDevice = z.infer<typeof BrowserDevice>;
export type BrowserFacts = z.infer<typeof BrowserFacts>;
export type DecodeAnswer = z.infer<typeof DecodeAnswer>;
export type Figures = z.infer<typeof Figures>;
export type Measurement = z.infer<typeof Measurement>;
