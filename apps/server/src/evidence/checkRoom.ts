/** Places for checks that run at the same time; the others wait in order. One page cannot starve the server. */
export class CheckRoom<T> {
  private readonly inside = new Map<T, number>();
  private waiting: { who: T; go: (slot: number) => void; moved: (ahead: number) => void }[] = [];

  constructor(private readonly places: number) {}

  /** Calls `go` with a free slot, at once or later; `moved` is told how many are ahead. */
  enter(who: T, go: (slot: number) => void, moved: (ahead: number) => void): void {
    if (this.inside.has(who) || this.waiting.some((entry) => entry.who === who)) return;
    this.waiting.push({ who, go, moved });
    this.admit();
  }

  leave(who: T): void {
    this.inside.delete(who);
    this.waiting = this.waiting.filter((entry) => entry.who !== who);
    this.admit();
  }

  has(who: T): boolean {
    return this.inside.has(who);
  }

  private admit(): void {
    while (this.waiting.length > 0 && this.inside.size < this.places) {
      const next = this.waiting.shift();
      if (!next) return;
      const taken = new Set(this.inside.values());
      let slot = 0;
      while (taken.has(slot)) slot++;
      this.inside.set(next.who, slot);
      next.go(slot);
    }
    this.waiting.forEach((entry, i) => entry.moved(i + 1));
  }
}
