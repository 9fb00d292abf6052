import { CardImage } from '../estate/bringup.js';
import { defineKind } from './defineKind.js';

export const image = defineKind({
  schema: CardImage,
  file: 'images.csv',
  words: { one: 'Image', many: 'Images' },
  list: [
    ['deviceClass', 'Device'],
    ['version', 'Version'],
    ['processor', 'Processor'],
    ['bootMode', 'Starts by'],
    ['sizeMB', 'Size, MB'],
  ],
  look: 20,
  touches: 'nothing',
});
