import { z } from 'zod';
import { Decoder, Screen } from '../estate/endpoint.js';
import { readDecoder, readScreen, writeDecoder, writeScreen } from './compact.js';

/** How a list of some objects is written in one cell of a table. */
interface ListCell {
  expected: string;
  readPart: (text: string) => unknown;
  writePart: (value: never) => string;
  /** What stands for a list without anything in it; without one an empty cell does. */
  emptyAs?: string;
  separator: string;
}

/** Short forms of lists, by the schema of what is in them. */
export const listCells = z.registry<ListCell>();
listCells.add(Screen, {
  expected: 'screens such as 1920x1080@60 scale 1.5 hdmi-2.0 +0+0',
  readPart: readScreen,
  writePart: writeScreen,
  separator: '; ',
});
listCells.add(Decoder, {
  expected: 'decoders such as h264@5.1;hevc@5.1+444, or none',
  readPart: readDecoder,
  writePart: writeDecoder,
  emptyAs: 'none',
  separator: ';',
});
