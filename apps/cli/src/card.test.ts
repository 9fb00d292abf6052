import { beforeAll, expect, test } from '@jest/globals';
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { commandLine } from './commandLine.js';

const folder = mkdtempSync(join(tmpdir(), 'underpass-card-'));
const at = (name: string) => join(folder, name);
// more than two of the pieces that it is read in
const bytes = randomBytes(9_000_000);
const sum = createHash('sha256').update(bytes).digest('hex');
beforeAll(() => writeFileSync(at('tc.img'), bytes));

const card = async (...args: string[]): Promise<Record<string, unknown>> => {
  try {
    return JSON.parse(await commandLine(['card', ...args, '--json'])) as Record<string, unknown>;
  } catch (error) {
    return { fault: (error as Error).message };
  }
};

test('an image is written to a file that stands in for a card, and read back', async () => {
  const good = { bytes: bytes.length, imageSha256: sum, cardSha256: sum, same: true, firstOtherAt: null };
  expect(await card(at('tc.img'), at('new.img'), '--write', '--sha256', sum.toUpperCase())).toEqual({ written: true, ...good });
  expect(readFileSync(at('new.img')).equals(bytes)).toBe(true);
  expect(await card(at('tc.img'), at('new.img'))).toEqual({ written: false, ...good });
});

test('a card is larger than its image; one byte that is another is found, and a card that ends too early', async () => {
  writeFileSync(at('card.img'), Buffer.alloc(12_000_000, 7));
  expect(await card(at('tc.img'), at('card.img'), '--write', '--size', '0.012')).toMatchObject({ written: true, same: true });
  // what it had behind the image is there still
  const written = readFileSync(at('card.img'));
  expect([written.length, written[11_999_999]]).toEqual([12_000_000, 7]);
  written[5_000_001] = (written[5_000_001] ?? 0) ^ 4;
  writeFileSync(at('card.img'), written);
  expect(await card(at('tc.img'), at('card.img'))).toMatchObject({ same: false, firstOtherAt: 5_000_001, imageSha256: sum });
  truncateSync(at('card.img'), 8_000_000);
  expect(await card(at('tc.img'), at('card.img'))).toMatchObject({ same: false, firstOtherAt: 5_000_001 });
  writeFileSync(at('card.img'), bytes.subarray(0, 8_000_000));
  expect(await card(at('tc.img'), at('card.img'))).toMatchObject({ same: false, firstOtherAt: 8_000_000 });
});

test('what is refused is left as it was', async () => {
  writeFileSync(at('letters.txt'), 'of a person');
  const wrong = async (says: RegExp, ...args: string[]) => expect((await card(...args)).fault).toMatch(says);
  await wrong(/is a file that holds 0.0 MB already; say its size as well/, at('tc.img'), at('letters.txt'), '--write');
  await wrong(/holds 0.0 MB, not 1.0 MB; look which file it is/, at('tc.img'), at('letters.txt'), '--write', '--size', '0.001');
  writeFileSync(at('small.img'), Buffer.alloc(1_000_000));
  await wrong(/take a larger card/, at('tc.img'), at('small.img'), '--write', '--size', '0.001');
  expect(readFileSync(at('letters.txt'), 'utf8')).toBe('of a person');
  await wrong(/not 0{64}; nothing was written/, at('tc.img'), at('other.img'), '--write', '--sha256', '0'.repeat(64));
  expect(existsSync(at('other.img'))).toBe(false);
  await wrong(/has the sum/, at('tc.img'), at('new.img'), '--sha256', '0'.repeat(64));
  await wrong(/--sha256: must be 64/, at('tc.img'), at('new.img'), '--sha256', '12');
  await wrong(/is the image itself/, at('tc.img'), at('tc.img'), '--write');
  await wrong(/is no file and no disk/, at('tc.img'), '/dev/null', '--write');
  await wrong(/nothing: is no file/, at('nothing'), at('new.img'));
  await wrong(/cannot be read/, at('tc.img'), at('nothing'));
  writeFileSync(at('empty.img'), '');
  await wrong(/is empty/, at('empty.img'), at('new.img'));
});
