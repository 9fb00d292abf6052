/**
 * Tries of one address in a window of time: so many in all, and fewer that led nowhere. What leads somewhere goes on however many
 * wrong ones came from the same address: a whole office may share it with whoever guesses.
 */
export class Doorway {
  private readonly seen = new Map<string, { from: number; all: number; wrong: number }>();

  constructor(
    private readonly windowMs: number,
    private readonly most: number,
    private readonly mostWrong: number,
    private readonly nowMs: () => number,
  ) {}

  private of(address: string): { from: number; all: number; wrong: number } {
    const now = this.nowMs();
    const known = this.seen.get(address);
    if (known && now - known.from < this.windowMs) return known;
    // addresses are many; what has run out makes room
    if (this.seen.size > 10_000) for (const [other, { from }] of this.seen) if (now - from >= this.windowMs) this.seen.delete(other);
    const fresh = { from: now, all: 0, wrong: 0 };
    this.seen.set(address, fresh);
    return fresh;
  }

  /** Counts a try. @returns whether it is one too many */
  tooMany(address: string): boolean {
    const entry = this.of(address);
    entry.all++;
    return entry.all > this.most;
  }

  /** Counts a try that led nowhere. @returns whether it is one too many */
  wrong(address: string): boolean {
    return ++this.of(address).wrong > this.mostWrong;
  }
}
