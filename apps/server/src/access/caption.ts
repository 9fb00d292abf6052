import PDFDocument from 'pdfkit';
import { createRequire } from 'node:module';

const { resolve } = createRequire(import.meta.url);
/** A face with Latin, Greek, Cyrillic and more, embedded in print sheets: the standard faces of PDF know western letters only. */
export const faces = {
  plain: resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf'),
  bold: resolve('dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf'),
} as const;
export type Face = keyof typeof faces;

/** Smallest part of its size a caption is set in before it is shortened. */
const least = 0.75;
/** Never drawn: it knows how wide a text is. The face is as wide as any a viewer of the SVG is likely to take for sans-serif. */
const ruler = new PDFDocument({ autoFirstPage: false });

const widthIn = (face: Face, sizeMm: number) => (part: string) => ruler.font(faces[face]).fontSize(sizeMm).widthOfString(part);

export interface Fitted {
  text: string;
  sizeMm: number;
}

/** A caption in at most two lines, each within a width. */
export function twoLines(text: string, face: Face, sizeMm: number, widthMm: number): Fitted[] {
  const widthOf = widthIn(face, sizeMm);
  if (widthOf(text) <= widthMm) return [{ text, sizeMm }];
  const words = text.split(' ');
  let first = words.length - 1;
  while (first > 0 && widthOf(words.slice(0, first).join(' ')) > widthMm) first--;
  if (first === 0) return [fitted(text, face, sizeMm, widthMm)];
  return [{ text: words.slice(0, first).join(' '), sizeMm }, fitted(words.slice(first).join(' '), face, sizeMm, widthMm)];
}

/** A text and its size in mm, so that it stays within a width: set smaller first, then shortened with an ellipsis. */
export function fitted(text: string, face: Face, sizeMm: number, widthMm: number): Fitted {
  const widthOf = widthIn(face, sizeMm);
  const scale = widthMm / widthOf(text);
  if (scale >= 1) return { text, sizeMm };
  if (scale >= least) return { text, sizeMm: sizeMm * scale };
  // by characters as people see them, not by code units
  const letters = [...new Intl.Segmenter().segment(text)].map(({ segment }) => segment);
  let kept = letters.length;
  while (kept > 1 && widthOf(`${letters.slice(0, kept).join('').trimEnd()}…`) * least > widthMm) kept--;
  return { text: `${letters.slice(0, kept).join('').trimEnd()}…`, sizeMm: sizeMm * least };
}
