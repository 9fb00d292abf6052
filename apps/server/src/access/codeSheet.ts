import type { EntryLinkView } from '@underpass/contracts';
import { captionMm, codeSize, largestOnSheetMm, quietModules, sheet, sheetLayout, type CodeSize } from '@underpass/core';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';

interface Placed {
  link: EntryLinkView;
  page: number;
  xMm: number;
  yMm: number;
  size: CodeSize;
  modules: number;
  dark: (row: number, column: number) => boolean;
}
export interface Sheet {
  codes: Placed[];
  pages: number;
  /** Distance the codes can be read from; less than asked for where the paper is too small. */
  distanceM: number;
}

/** Codes of level M with a quiet zone of four modules [ISO/IEC 18004], laid out on A4. All have one size, so that one page serves. */
export function sheetOf(links: readonly EntryLinkView[], distanceM: number): Sheet {
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
        size,
        modules: matrix.size,
        dark: (row: number, column: number) => matrix.get(row, column) === 1,
      };
    }),
    pages: (cells.at(-1)?.page ?? 0) + 1,
    distanceM: size.distanceM,
  };
}

const linesOf = ({ link, size }: Placed): string[] => [
  link.caption,
  [link.place, link.targetKind === 'location' ? '' : link.targetName].filter(Boolean).join(', '),
  `${link.resourceName === link.caption ? 'Read' : `${link.resourceName}, read`} from up to ${size.distanceM >= 1 ? `${size.distanceM.toFixed(1)} m` : `${Math.round(size.distanceM * 100)} cm`}`,
];

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

export function sheetSvg({ codes, pages }: Sheet): string {
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
    const texts = linesOf(code).map(
      (line, i) =>
        `<text x="${round(x)}" y="${round(code.page * sheet.heightMm + code.yMm + wholeMm + 2 + i * 4.6)}" font-size="${i === 0 ? 4.2 : 3.2}"${i === 0 ? ' font-weight="700"' : ''}>${escaped(line)}</text>`,
    );
    return `<path d="${path}"/>${texts.join('')}`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${sheet.widthMm}mm" height="${sheet.heightMm * pages}mm" viewBox="0 0 ${sheet.widthMm} ${sheet.heightMm * pages}" font-family="sans-serif" fill="#000"><rect width="100%" height="100%" fill="#fff"/>${parts.join('\n')}</svg>`;
}

const points = (mm: number): number => (mm * 72) / 25.4;

export function sheetPdf({ codes, pages }: Sheet): Promise<Buffer> {
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
      linesOf(code).forEach((line, i) =>
        document
          .font(i === 0 ? 'Helvetica-Bold' : 'Helvetica')
          .fontSize(i === 0 ? 11 : 8.5)
          .text(line, points(x), points(code.yMm + wholeMm - 1 + i * 4.6), {
            width: points(Math.max(50, code.size.sizeMm)),
            height: points(captionMm / 3),
            ellipsis: true,
            lineBreak: false,
          }),
      );
    }
  }
  document.end();
  return done;
}
