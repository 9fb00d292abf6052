/** What a line does to what passes it, one way. */
export interface WayProfile {
  /** Time on the way, ms. */
  delayMs: number;
  /** Added at random, 0 to this, ms. */
  jitterMs?: number;
  /** Mbit/s; none is no limit. */
  rateMbps?: number;
  /** Datagrams lost of 100. */
  lossPercent?: number;
  /** Every so often nothing passes for a while. */
  stall?: { everyMs: number; forMs: number };
  /** How much waits in the queue before datagrams are dropped or senders slowed, ms at the line's rate. */
  bufferMs?: number;
}

export interface Waiting {
  bytes: number;
  deliver: () => void;
}

/** Random numbers of a seed (mulberry32), so that a line behaves the same at every run. */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

/**
 * One direction of a line: everything that passes shares its rate and queue, in order. Deliveries are timed by one timer for the
 * next due item.
 */
export class Shaper {
  private readonly queue: { at: number; deliver: () => void }[] = [];
  private timer: NodeJS.Timeout | null = null;
  private freeAt = 0;
  private lastAt = 0;

  constructor(
    private readonly profile: WayProfile,
    private readonly random: () => number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** How long a byte handed in now would wait before it is sent, ms. */
  get backlogMs(): number {
    return Math.max(0, this.freeAt - this.now());
  }
  get full(): boolean {
    return this.backlogMs > (this.profile.bufferMs ?? 150);
  }

  loses(): boolean {
    return this.random() * 100 < (this.profile.lossPercent ?? 0);
  }

  pass({ bytes, deliver }: Waiting): void {
    const { delayMs, jitterMs = 0, rateMbps, stall } = this.profile;
    const now = this.now();
    let sent = now;
    if (rateMbps) sent = this.freeAt = Math.max(now, this.freeAt) + (bytes * 8) / (rateMbps * 1000);
    let at = sent + delayMs + this.random() * jitterMs;
    if (stall) {
      const phase = at % stall.everyMs;
      if (phase < stall.forMs) at += stall.forMs - phase;
    }
    // nothing overtakes on a line
    at = this.lastAt = Math.max(at, this.lastAt);
    this.queue.push({ at, deliver });
    if (this.queue.length === 1) this.arm();
  }

  close(): void {
    if (this.timer) clearTimeout(this.timer);
    this.queue.length = 0;
  }

  private arm(): void {
    const next = this.queue[0];
    if (!next) return;
    this.timer = setTimeout(() => this.run(), Math.max(0, Math.floor(next.at - this.now())));
  }

  private run(): void {
    const now = this.now();
    let done = 0;
    while (done < this.queue.length && (this.queue[done] as { at: number }).at <= now + 0.3)
      (this.queue[done++] as { deliver: () => void }).deliver();
    this.queue.splice(0, done);
    if (this.queue.length) this.arm();
  }
}
