import type { DataSource } from 'typeorm';

/** So much is read at once: the driver takes each answer apart in one go, in which nobody else is served. */
const partBytes = 2 ** 20;

/** Where bytes of any size are kept, by the id of their row. */
const kept = { job: 'input', taken_list: 'bytes' } as const;

/** What is kept in a row, read in parts; null where it is not there, or not any more. */
export async function largeBytes(data: DataSource, table: keyof typeof kept, id: string): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  for (let from = 1; ; from += partBytes) {
    const [row] = (await data.query(`SELECT substring(${kept[table]} FROM $2 FOR $3) AS part FROM ${table} WHERE id = $1`, [
      ...[id, from, partBytes],
    ])) as { part: Buffer | null }[];
    if (!row?.part) return null;
    parts.push(row.part);
    if (row.part.length < partBytes) return Buffer.concat(parts);
  }
}
