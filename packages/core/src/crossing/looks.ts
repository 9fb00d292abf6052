import type { ContentClass } from '@underpass/contracts';
import { plainLooks, type Looks } from '../picture/index.js';
import { type Follower, type SettingValues } from '../settings/index.js';
import { headersShare } from './wayIn.js';

/** What each effect of a desktop asks where it is shown, as a part of a class of content; from memory, assumed. */
const withoutEffect = {
  'picture.transparency': { window: 0.9 },
  'picture.dragContents': { window: 0.6 },
  'picture.animation': { window: 0.9 },
  'picture.fontSmoothing': { text: 0.85, still: 0.95 },
} as const satisfies Partial<Record<keyof SettingValues, Partial<Record<ContentClass, number>>>>;
const effects = Object.keys(withoutEffect) as (keyof typeof withoutEffect)[];
/** A first picture without its background picture, of that with it; from memory, assumed. */
const plainGround = 0.7;
/** What stands still sent once more without loss, of what the first coding takes; from memory, assumed. */
const exact = { text: 1.25, window: 1.1, firstFrame: 1.8 };
/** Moving pictures in pages at half their pace: half the frames of them. */
const calmed = 0.5;
/** Sound by how much of it is kept, Mbit/s; from memory, assumed. What is left beside it is input. */
export const soundMbps = { 'for speech': 0.024, balanced: 0.064, 'in full': 0.256 } as const;
const inputBesideMbps = plainLooks.besideMbps - soundMbps.balanced;

/** Whether an effect is shown: what the line is taken for counts before the effect's own switch; edges of text stay what they are set to. */
function isShown(s: SettingValues, key: keyof typeof withoutEffect | 'picture.wallpaper'): boolean {
  if (key === 'picture.fontSmoothing' || s['picture.networkHint'] === 'as set') return s[key];
  return s['picture.networkHint'] === 'fast line';
}

const known = new Map<string, Looks>();
/** By the settings object, which everybody shares for whom the same is in force; and by what of a device decides whether it follows them. */
const latest = new WeakMap<SettingValues, (Looks | undefined | null)[]>();
const kinds = { browser: 0, 'native client': 1, 'thin-client firmware': 2 } as const;
const platforms = { thin: 0, desktop: 3, mobile: 6 } as const;

/** What the settings take off a picture and add to it; nothing where it is as it was measured. */
export function looksOf(s: SettingValues, device: Follower): Looks | undefined {
  let byDevice = latest.get(s);
  if (!byDevice) latest.set(s, (byDevice = new Array<null>(9).fill(null)));
  const kind = kinds[device.clientKind] + platforms[device.platform];
  let looks = byDevice[kind];
  if (looks === null) byDevice[kind] = looks = makeLooks(s, device);
  return looks;
}

function makeLooks(s: SettingValues, device: Follower): Looks | undefined {
  const rate: Partial<Record<ContentClass, number>> = {};
  const times = (content: ContentClass, factor: number) => (rate[content] = (rate[content] ?? 1) * factor);
  let firstFrame = 1;
  for (const key of effects) {
    if (isShown(s, key)) continue;
    for (const [content, factor] of Object.entries(withoutEffect[key])) times(content as ContentClass, factor);
  }
  if (!isShown(s, 'picture.wallpaper')) firstFrame *= plainGround;
  if (s['picture.refineStill']) {
    times('text', exact.text);
    times('window', exact.window);
    firstFrame *= exact.firstFrame;
  }
  if (s['media.calmAnimated']) times('page-video', calmed);
  const besideMbps = s['sound.play'] === 'on the endpoint' ? inputBesideMbps + soundMbps[s['sound.quality']] : inputBesideMbps;
  const overhead = plainLooks.overhead * (headersShare(s, device) / headersShare(null, device));
  const videoFps = s['media.videoFrames'];
  const key = `${JSON.stringify(rate)}|${firstFrame}|${videoFps}|${besideMbps}|${overhead}`;
  let looks = known.get(key);
  if (!looks) {
    // few are in force in an estate; what is tried comes and goes
    if (known.size > 1000) known.clear();
    known.set(key, (looks = { key, rate, firstFrame, videoFps, besideMbps, overhead }));
  }
  return key === plainKey ? undefined : looks;
}
const plainKey = `{}|1|120|${plainLooks.besideMbps}|${plainLooks.overhead}`;
