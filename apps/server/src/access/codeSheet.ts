import type { EntryLinkView } from '@underpass/contracts';
import { codeSize, largestOnSheetMm, quietModules, sheet, sheetLayout, type CodeSize } from '@underpass/core';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';
import { faces, fitted, twoLines, type Face, type Fitted } from './caption.js';

interface Placed {
  link: EntryLinkView;
  page: number;
  xMm: number;
  yMm: number;
  widthMm: number;
  size: CodeSize;
  modules: number;
  dark: (row: number, column: number) => boolean;
}
export interface Sheet {
  codes: Placed[];
  pages: number;
  /** Distance the codes can be read from; less than asked for where the paper is too small. */
  distanceM: number;
  caption: Caption;
}
/** How it is told from how far a code is read, and in which language. */
interface Caption {
  language: string;
  text: string;
}
const english: Caption = { language: 'en', text: 'Read from up to {{distance}}' };

/** Codes of level M with a quiet zone of four modules [ISO/IEC 18004], laid out on A4. All have one size, so that one page serves. */
export function sheetOf(links: readonly EntryLinkView[], distanceM: number, caption: Caption = english): Sheet {
  const codes = links.map((link) => ({ link, matrix: QRCode.create(link.url, { errorCorrectionLevel: 'M' }).modules }));
  const most = Math.max(...codes.map(({ matrix }) => matrix.size));
  const largest = (largestOnSheetMm * most) / (most + 2 * quietModules);
  const size = codeSize(Math.min(distanceM, (largest * 10) / 1000), most);
  const cells = sheetLayout(codes.length, size.wholeMm);
  return {
    codes: codes.map(({ link, matrix }, i) => {
      const cell = cells[i] as (typeof cells)[number];
      return {
        link,
        page: cell.page,
        xMm: cell.xMm,
        yMm: cell.yMm,
        widthMm: cell.widthMm,
        size,
        modules: matrix.size,
        dark: (row: number, column: number) => matrix.get(row, column) === 1,
      };
    }),
    pages: (cells.at(-1)?.page ?? 0) + 1,
    distanceM: size.distanceM,
    caption,
  };
}

interface Line extends Fitted {
  face: Face;
  /** Baseline from the top of the page, mm. */
  yMm: number;
}
/** What stands beneath a code, within the width of its cell. */
function linesOf({ link, size, modules, yMm, widthMm }: Placed, { language, text }: Caption): Line[] {
  const { distanceM, moduleMm, wholeMm } = size;
  const inMetres = new Intl.NumberFormat(language, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
  const room = widthMm - (wholeMm - modules * moduleMm) / 2;
  const place = [link.place, link.targetKind === 'location' ? '' : link.targetName].filter(Boolean).join(', ');
  return [
    ...twoLines(link.caption, 'bold', 4.2, room).map((line) => ({ ...line, face: 'bold' as const })),
    ...[
      place,
      ...(link.resourceName === link.caption ? [] : [link.resourceName]),
      text.replace('{{distance}}', distanceM >= 1 ? `${inMetres.format(distanceM)} m` : `${Math.round(distanceM * 100)} cm`),
    ].map((text) => ({ ...fitted(text, 'plain', 3.2, room), face: 'plain' as const })),
  ].map((line, i) => ({ ...line, yMm: yMm + wholeMm + 2 + i * 4.6 }));
}

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const round = (mm: number): number => Math.round(mm * 1000) / 1000;

/** Runs of dark modules of each row, so that a printer draws no seams between neighbours. */
function* runs({ modules, dark }: Placed): Generator<{ row: number; column: number; length: number }> {
  for (let row = 0; row < modules; row++)
    for (let column = 0; column < modules; column++) {
      if (!dark(row, column)) continue;
      let length = 1;
      while (column + length < modules && dark(row, column + length)) length++;
      yield { row, column, length };
      column += length;
    }
}

export function sheetSvg({ codes, pages, caption }: Sheet): string {
  const parts = codes.map((code) => {
    const { moduleMm, wholeMm } = code.size;
    const quiet = ((wholeMm - code.modules * moduleMm) / 2 / moduleMm) * moduleMm;
    const [x, y] = [code.xMm + quiet, code.page * sheet.heightMm + code.yMm + quiet];
    const path = [...runs(code)]
      .map(
        ({ row, column, length }) =>
          `M${round(x + column * moduleMm)} ${round(y + row * moduleMm)}h${round(length * moduleMm)}v${round(moduleMm)}h-${round(length * moduleMm)}z`,
      )
      .join('');
    const texts = linesOf(code, caption).map(
      ({ text, face, sizeMm, yMm }) =>
        `<text x="${round(x)}" y="${round(code.page * sheet.heightMm + yMm)}" font-size="${round(sizeMm)}"${face === 'bold' ? ' font-weight="700"' : ''}>${escaped(text)}</text>`,
    );
    return `<path d="${path}"/>${texts.join('')}`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${sheet.widthMm}mm" height="${sheet.heightMm * pages}mm" viewBox="0 0 ${sheet.widthMm} ${sheet.heightMm * pages}" font-family="sans-serif" fill="#000"><rect width="100%" height="100%" fill="#fff"/>${parts.join('\n')}</svg>`;
}

const points = (mm: number): number => (mm * 72) / 25.4;

export function sheetPdf({ codes, pages, caption }: Sheet): Promise<Buffer> {
  const document = new PDFDocument({ size: 'A4', margin: 0, autoFirstPage: false, info: { Title: 'Entry codes' } });
  const chunks: Buffer[] = [];
  document.on('data', (chunk: Buffer) => chunks.push(chunk));
  const done = new Promise<Buffer>((resolve, reject) => {
    document.on('end', () => resolve(Buffer.concat(chunks)));
    document.on('error', reject);
  });
  for (let page = 0; page < pages; page++) {
    document.addPage();
    for (const code of codes.filter((each) => each.page === page)) {
      const { moduleMm, wholeMm } = code.size;
      const quiet = (wholeMm - code.modules * moduleMm) / 2;
      const [x, y] = [code.xMm + quiet, code.yMm + quiet];
      for (const { row, column, length } of runs(code))
        document.rect(points(x + column * moduleMm), points(y + row * moduleMm), points(length * moduleMm), points(moduleMm));
      document.fill('#000');
      for (const { text, face, sizeMm, yMm } of linesOf(code, caption))
        document
          .font(faces[face])
          .fontSize(points(sizeMm))
          .text(text, points(x), points(yMm), { baseline: 'alphabetic', lineBreak: false });
    }
  }
  document.end();
  return done;
}
