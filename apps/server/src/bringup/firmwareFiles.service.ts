import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Firmware, PieceQuery, PieceTaken } from '@underpass/contracts';
import { createHash } from 'node:crypto';
import { DataSource, type EntityManager } from 'typeorm';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';

/** What of a file is here. */
interface FileRow {
  id: string;
  total: number;
  here: number;
  sha256: string | null;
  at: Date;
}
type Raw = Omit<FileRow, 'total' | 'here'> & { total: string; here: string };
const read = ({ total, here, ...row }: Raw): FileRow => ({ ...row, total: Number(total), here: Number(here) });
const columns = 'id, total, here, sha256, at';

/**
 * The bytes of firmware files. They come in pieces, so that an upload that broke off goes on where it stopped, and are kept as they came;
 * devices are offered them once they are whole and have the sum that the catalogue says.
 */
@Injectable()
export class FirmwareFiles {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
  ) {}

  /** Every file of which there are bytes. */
  async all(): Promise<ReadonlyMap<string, FileRow>> {
    const rows: Raw[] = await this.data.query(`SELECT ${columns} FROM firmware_file`);
    return new Map(rows.map((row) => [row.id, read(row)]));
  }

  /** Takes the next piece of a file; the first begins it anew. With the last it is held against its sum. */
  async take(id: string, { at, of }: PieceQuery, bytes: Uint8Array): Promise<PieceTaken> {
    const file = this.fileOf(id);
    if (bytes.length === 0) throw new ProblemError(400, 'Not valid', 'The piece is empty.');
    if (at + bytes.length > of)
      throw new ProblemError(422, 'Not valid', `The piece ends at ${at + bytes.length}, behind the end of the file at ${of}.`);
    const here = await this.data.transaction(async (manager) => {
      if (at === 0) await this.begin(manager, id, of);
      const [raw]: Raw[] = await manager.query(`SELECT ${columns} FROM firmware_file WHERE id = $1 FOR UPDATE`, [id]);
      const row = raw && read(raw);
      if (row?.here !== at || row.total !== of)
        throw new ProblemError(
          409,
          'Not the next piece',
          row ? `${row.here} of ${row.total} bytes are here. Go on from there, or from 0.` : 'Nothing of it is here yet. Begin at 0.',
        );
      await manager.query('INSERT INTO firmware_piece (file, begins, bytes) VALUES ($1, $2, $3)', [id, at, Buffer.from(bytes)]);
      await manager.query('UPDATE firmware_file SET here = $2, at = now() WHERE id = $1', [id, at + bytes.length]);
      return at + bytes.length;
    });
    return { here, total: of, sha256: here === of ? await this.finish(file, of) : null };
  }

  /** Forgets the bytes of a file. */
  async forget(id: string): Promise<void> {
    await this.data.query('DELETE FROM firmware_file WHERE id = $1', [id]);
  }

  /** The files that are whole and have the sum of the catalogue, which are those that devices are offered. */
  async whole(): Promise<ReadonlyMap<string, { total: number; sha256: string }>> {
    const found = new Map<string, { total: number; sha256: string }>();
    for (const [id, { total, sha256 }] of await this.all()) {
      const file = this.store.find('firmware', id) as Firmware | undefined;
      if (file && sha256 !== null && (file.sha256 ?? sha256).toLowerCase() === sha256) found.set(id, { total, sha256 });
    }
    return found;
  }

  /** The bytes from one place to another, both within, piece by piece. */
  async *bytes(id: string, from: number, to: number): AsyncGenerator<Buffer> {
    for (let at = from; at <= to;) {
      const [piece]: { begins: string; bytes: Buffer }[] = await this.data.query(
        'SELECT begins, bytes FROM firmware_piece WHERE file = $1 AND begins <= $2 ORDER BY begins DESC LIMIT 1',
        [id, at],
      );
      const begins = Number(piece?.begins ?? 0);
      const part = piece?.bytes.subarray(at - begins, to + 1 - begins);
      // taken away while it was read: the reader sees that the end is missing
      if (!part?.length) throw new Error(`firmware ${id} has no byte ${at}`);
      yield part;
      at += part.length;
    }
  }

  private fileOf(id: string): Firmware {
    const file = this.store.find('firmware', id) as Firmware | undefined;
    if (!file) throw notFound('firmware', id);
    return file;
  }

  private async begin(manager: EntityManager, id: string, total: number): Promise<void> {
    // with it go those of files that are not in the catalogue any more
    const others = [...(this.store.all('firmware') as Iterable<Firmware>)].map((file) => file.id).filter((each) => each !== id);
    await manager.query('DELETE FROM firmware_file WHERE NOT (id = ANY($1))', [others]);
    await manager.query('INSERT INTO firmware_file (id, total, at) VALUES ($1, $2, now())', [id, total]);
  }

  /** Holds a whole file against the sum of the catalogue, where it says one. */
  private async finish(file: Firmware, total: number): Promise<string> {
    const hash = createHash('sha256');
    for await (const part of this.bytes(file.id, 0, total - 1)) hash.update(part);
    const sha256 = hash.digest('hex');
    if (file.sha256 !== undefined && file.sha256.toLowerCase() !== sha256) {
      await this.forget(file.id);
      throw new ProblemError(
        422,
        'Another file',
        `What came has the sum ${sha256}; the catalogue says ${file.sha256.toLowerCase()}. Nothing of it was kept: choose the right file, or mend the sum.`,
      );
    }
    await this.data.query('UPDATE firmware_file SET sha256 = $2, at = now() WHERE id = $1', [file.id, sha256]);
    return sha256;
  }
}
