import type { DataSource } from 'typeorm';

/** Somebody called the work off. */
export class Cancelled extends Error {}

/** How often it is written down how far the work is, ms. */
const everyMs = 300;

/** How far work is, told to everybody; and whether it is still wanted. */
export class Progress {
  private now = { step: 'starting', done: 0, total: 1 };
  private written = '';
  private cancelled = false;
  private timer: NodeJS.Timeout | null = null;
  private writing: Promise<void> = Promise.resolve();

  constructor(
    private readonly data: DataSource,
    private readonly id: string,
    private readonly tell: (id: string) => Promise<void>,
  ) {
    this.timer = setInterval(() => {
      this.writing = this.writing.then(() => this.write()).catch(() => undefined);
    }, everyMs);
  }

  /** Notes how far it is; throws where it was called off. */
  at(step: string, done: number, total: number): void {
    this.now = { step, done, total };
    this.check();
  }
  check(): void {
    if (this.cancelled) throw new Cancelled('called off');
  }

  private async write(): Promise<void> {
    const { step, done, total } = this.now;
    const text = JSON.stringify(this.now);
    const rows = (await this.data.query(
      `UPDATE job SET step = $2, done = $3, total = $4 WHERE id = $1 AND state = 'running' RETURNING cancel`,
      [this.id, step.slice(0, 200), done, total],
    )) as [{ cancel: boolean }[], number];
    this.cancelled ||= rows[0][0]?.cancel ?? false;
    if (text !== this.written) await this.tell(this.id);
    this.written = text;
  }

  /** No more is told from here on. */
  async end(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    await this.writing;
  }
}
