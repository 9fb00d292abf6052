import { expect, test } from '@jest/globals';
import type { EntryLinkView } from '@underpass/contracts';
import { sheet } from '@underpass/core';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sheetOf, sheetPdf, sheetSvg } from '../src/access/codeSheet.js';

const captions = [
  'Orders for the shop floor',
  'Заявки ремонтной мастерской, второй причал у сухого дока',
  'Παραγγελίες του συνεργείου στην αποβάθρα επισκευών',
  'Příkazy pro dílnu & <sklad> “náhradních” dílů, žlutá budova',
  'A caption as long as captions may be, which no cell of a sheet has the room for!!',
];
const links = (count: number): EntryLinkView[] =>
  Array.from({ length: count }, (_, i) => ({
    id: `link${i}`,
    url: `https://access.saltmarsh.example/go/link${i}`,
    leadsTo: '',
    publication: 'p',
    resource: 'r',
    resourceName: 'Workshop orders',
    targetKind: 'endpoint',
    target: `E${i}`,
    targetName: `GUL-${i}`,
    place: 'Gullsey repair dock',
    caption: captions[i % captions.length] ?? '',
    createdBy: '',
    createdAt: '2026-06-12T08:00:00.000Z',
    expiresAt: '2027-06-12T08:00:00.000Z',
    state: 'good',
    opened: 0,
    openedAt: null,
  }));

/** Words of a PDF with their boxes in points, as poppler’s pdftotext reads them; outside reader of what was written. */
function wordsOf(pdf: Buffer): { page: number; xMin: number; xMax: number; yMin: number; yMax: number; text: string }[] {
  const file = join(mkdtempSync(join(tmpdir(), 'sheet-')), 'sheet.pdf');
  writeFileSync(file, pdf);
  const html = execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' });
  return html.split('<page ').flatMap((page, i) =>
    [...page.matchAll(/<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(.*?)<\/word>/g)].map(
      ([, xMin, yMin, xMax, yMax, text = '']) => ({
        page: i,
        xMin: Number(xMin),
        yMin: Number(yMin),
        xMax: Number(xMax),
        yMax: Number(yMax),
        text: text.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&'),
      }),
    ),
  );
}

test.each([0.2, 0.4, 1, 1.7])(
  'at a reading distance of %s m no caption meets another or the edge, whatever it is written in',
  async (distanceM) => {
    const words = wordsOf(await sheetPdf(sheetOf(links(10), distanceM)));
    for (const word of words) {
      expect(word.xMax).toBeLessThan(((sheet.widthMm - 6) * 72) / 25.4);
      expect(word.yMax).toBeLessThan(((sheet.heightMm - 6) * 72) / 25.4);
      for (const other of words)
        if (other !== word && other.page === word.page && Math.abs(other.yMin - word.yMin) < 2 && other.xMin >= word.xMin)
          expect(other.xMin).toBeGreaterThanOrEqual(word.xMax - 0.5);
    }
    const text = words.map((word) => word.text).join(' ');
    for (const word of 'Orders shop floor Заявки ремонтной Παραγγελίες του Příkazy pro dílnu & <sklad> Gullsey GUL-9'.split(' '))
      expect(text.split(' ')).toContain(word);
    expect(text.match(/Read from up to/g)).toHaveLength(10);
  },
);

test('the sheet as SVG says the same as the one as PDF, with nothing of a caption taken for markup', async () => {
  const codes = sheetOf(links(5), 0.4);
  const svg = sheetSvg(codes);
  const said = [...svg.matchAll(/<text[^>]*>([^<]*)<\/text>/g)].map(([, text = '']) =>
    text.replace(/&#(\d+);/g, (_, code: string) => String.fromCharCode(Number(code))),
  );
  expect(said.join(' ').split(' ').sort()).toEqual(
    wordsOf(await sheetPdf(codes))
      .map(({ text }) => text)
      .sort(),
  );
  expect(svg).not.toContain('<sklad>');
});
