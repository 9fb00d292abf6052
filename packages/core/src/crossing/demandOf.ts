import type { ContentClass } from '@underpass/contracts';
import { callMbps } from '../voice/index.js';
import { pictureDemand, videoSourceMbps, type Demand, type Stream } from '../picture/index.js';
import { followed, type SettingValues } from '../settings/index.js';
import { hasOnDesk } from './devices.js';
import { cameraMbpsOf } from './camera.js';
import type { CrossingFacts } from './facts.js';
import { looksOf } from './looks.js';
import { sessionOf, type Session, type SessionFacts } from './session.js';

type Mix = Partial<Record<ContentClass, number>>;

/** Few mixes meet few stream shapes, so their demand is remembered. */
const known = new WeakMap<Mix, Map<string, Demand>>();
const stills = new WeakMap<Mix, Mix>();

/** What was asked for last of each mix: one crossing after the other mostly asks for the same. */
const latest = new WeakMap<Mix, { stream: Stream; demand: Demand }>();
const sameStream = (a: Stream, b: Stream): boolean =>
  a.activePixels === b.activePixels &&
  a.idlePixels === b.idlePixels &&
  a.fps === b.fps &&
  a.codec === b.codec &&
  a.chroma444 === b.chroma444 &&
  a.colourDepth === b.colourDepth &&
  a.looks === b.looks;

function remembered(mix: Mix, stream: Stream): Demand {
  const last = latest.get(mix);
  if (last && sameStream(last.stream, stream)) return last.demand;
  let byStream = known.get(mix);
  if (!byStream) known.set(mix, (byStream = new Map()));
  const key = `${stream.activePixels}|${stream.idlePixels}|${stream.fps}|${stream.codec}|${stream.chroma444}|${stream.colourDepth ?? 32}|${stream.looks?.key ?? ''}`;
  let demand = byStream.get(key);
  if (!demand) {
    if (byStream.size > 1000) byStream.clear();
    byStream.set(key, (demand = pictureDemand(mix, stream)));
  }
  latest.set(mix, { stream, demand });
  return demand;
}

/** The mix with its video played on the endpoint: what is left of it in the session stands still. */
function withoutVideo(mix: Mix): Mix {
  let still = stills.get(mix);
  if (!still) {
    const { video = 0, 'page-video': page = 0, ...rest } = mix;
    stills.set(mix, (still = video + page === 0 ? mix : { ...rest, still: (rest.still ?? 0) + video + page }));
  }
  return still;
}

/** What the demand of a session depends on, besides the settings. */
export type DemandFacts = SessionFacts & Pick<CrossingFacts, 'resource'> & Partial<Pick<CrossingFacts, 'devices'>>;

/** Video is played on the endpoint instead of in the session. */
const playsVideo = ({ endpoint }: DemandFacts, s: SettingValues): boolean =>
  s['media.videoOffload'] && followed(s, 'media.videoOffload', endpoint);

/** Picture demand of a crossing's session. */
export function demandOf(facts: DemandFacts, s: SettingValues, session: Session = sessionOf(facts, s)): Demand {
  const { activePixels, idlePixels, codec, chroma444 } = session;
  const content: Mix = facts.resource.content;
  return remembered(playsVideo(facts, s) ? withoutVideo(content) : content, {
    activePixels,
    idlePixels,
    fps: s['picture.frameCap'],
    codec,
    chroma444,
    colourDepth: s['picture.colourDepth'],
    looks: looksOf(s, facts.endpoint),
  });
}

/** Input, acknowledgements and the rest of what every session sends, Mbit/s; from memory, assumed. */
export const inputMbps = 0.05;

/** What a session sends: input, and voice and camera where the work has them. @returns Mbit/s */
export const upDemandOf = ({ resource, endpoint, devices }: DemandFacts, s: SettingValues): number =>
  inputMbps +
  (resource.calls && (s['sound.microphone'] || followed(s, 'media.callOffload', endpoint)) ? callMbps : 0) +
  (resource.camera && hasOnDesk({ endpoint, devices: devices ?? [] }, 'camera') ? cameraMbpsOf(s, endpoint) : 0);

/** What a session puts on its line: its picture, what is played beside it, and what it sends. */
export interface DemandOnLine {
  meanMbps: number;
  sdMbps: number;
  /** Busiest twentieth of the time, picture and what is played beside it. */
  downP95Mbps: number;
  /** Video that is played on the endpoint, at its source's rate: mean, and in the busiest twentieth of the time. */
  besideMbps: number;
  besideP95Mbps: number;
  upMbps: number;
}

/** What a session puts on its line. @param demand its picture, where that is known already */
export function lineDemandOf(facts: DemandFacts, s: SettingValues, session?: Session, demand = demandOf(facts, s, session)): DemandOnLine {
  const { video = 0, 'page-video': page = 0 } = facts.resource.content;
  const upMbps = upDemandOf(facts, s);
  const { meanMbps, sdMbps, p95Mbps } = demand;
  if (video + page === 0 || !playsVideo(facts, s))
    return { meanMbps, sdMbps, downP95Mbps: p95Mbps, besideMbps: 0, besideP95Mbps: 0, upMbps };
  const { activePixels } = session ?? sessionOf(facts, s);
  const [full, small] = [videoSourceMbps(activePixels, true), videoSourceMbps(activePixels, false)];
  const besideMbps = video * full + page * small;
  const fullPart = Math.min(video, 0.05);
  const besideP95Mbps = (fullPart * full + Math.min(page, 0.05 - fullPart) * small) / 0.05;
  const squares = video * full * full + page * small * small;
  return {
    meanMbps: meanMbps + besideMbps,
    sdMbps: Math.sqrt(sdMbps * sdMbps + Math.max(0, squares - besideMbps * besideMbps)),
    downP95Mbps: p95Mbps + besideP95Mbps,
    besideMbps,
    besideP95Mbps,
    upMbps,
  };
}
