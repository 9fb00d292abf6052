import type { ContentClass } from '@underpass/contracts';
import { pictureDemand, type Demand, type Stream } from '../picture/index.js';
import type { SettingValues } from '../settings/index.js';
import type { CrossingFacts } from './facts.js';
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
  a.colourDepth === b.colourDepth;

function remembered(mix: Mix, stream: Stream): Demand {
  const last = latest.get(mix);
  if (last && sameStream(last.stream, stream)) return last.demand;
  let byStream = known.get(mix);
  if (!byStream) known.set(mix, (byStream = new Map()));
  const key = `${stream.activePixels}|${stream.idlePixels}|${stream.fps}|${stream.codec}|${stream.chroma444}|${stream.colourDepth ?? 32}`;
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
export type DemandFacts = SessionFacts & Pick<CrossingFacts, 'resource'>;

/** Picture demand of a crossing's session. */
export function demandOf(facts: DemandFacts, s: SettingValues, session: Session = sessionOf(facts, s)): Demand {
  const { activePixels, idlePixels, codec, chroma444 } = session;
  const offloaded = s['media.videoOffload'] && facts.endpoint.clientKind !== 'browser';
  const content: Mix = facts.resource.content;
  return remembered(offloaded ? withoutVideo(content) : content, {
    activePixels,
    idlePixels,
    fps: s['picture.frameCap'],
    codec,
    chroma444,
    colourDepth: s['picture.colourDepth'],
  });
}
