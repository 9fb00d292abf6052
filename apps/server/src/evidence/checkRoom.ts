/** Places for checks that run at the same time; the others wait in order. One page cannot starve the server. */
export class CheckRoom<T> {
  private readonly inside = new Map<T, number>();
  private queue: { who: T; go: (slot: number) => void; moved: (ahead: number) => void }[] = [];

  constructor(private readonly places: number) {}

  /** Calls `go` with a free slot, at once or later; `moved` is told how many are ahead. */
  enter(who: T, go: (slot: number) => void, moved: (ahead: number) => void): void {
    if (this.inside.has(who) || this.queue.some((entry) => entry.who === who)) return;
    this.queue.push({ who, go, moved });
    this.admit();
  }

  leave(who: T): void {
    this.inside.delete(who);
    this.queue = this.queue.filter((entry) => entry.who !== who);
    this.admit();
  }

  get waiting(): number {
    return this.queue.length;
  }

  has(who: T): boolean {
    return this.inside.has(who);
  }

  private admit(): void {
    while (this.queue.length > 0 && this.inside.size < this.places) {
      const next = this.queue.shift();
      if (!next) return;
      const taken = new Set(this.inside.values());
      let slot = 0;
      while (taken.has(slot)) slot++;
      this.inside.set(next.who, slot);
      next.go(slot);
    }
    this.queue.forEach((entry, i) => entry.moved(i + 1));
  }
}
