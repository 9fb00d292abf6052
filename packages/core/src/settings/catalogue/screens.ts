import { figureOf, oneOf, onOff } from './definition.js';

/** Which screens the session spans, and how. */
export const screensSettings = {
  'screens.use': oneOf({
    label: 'Screens used',
    does: 'Which screens the session spans',
    options: ['one', 'all'],
    default: 'all',
    symptoms: ['second screen black', 'only one screen'],
  }),
  'screens.most': figureOf({
    label: 'Screens',
    does: 'Most screens a session may span',
    unit: 'screens',
    min: 1,
    max: 8,
    steps: [1, 2, 3, 4],
    default: 4,
    symptoms: ['second screen black', 'third screen black'],
  }),
  'screens.mostMegapixels': figureOf({
    label: 'Pixels at most',
    does: 'Most pixels of all screens of a session together',
    unit: 'million',
    min: 1,
    max: 200,
    steps: [4, 8, 16, 200],
    default: 200,
    source: 'our default: no limit',
    symptoms: ['second screen black', 'stutters', 'line full'],
  }),
  'screens.arrange': oneOf({
    label: 'Screens show',
    does: 'Whether further screens extend the desktop, or show the same as the first',
    options: ['more', 'the same'],
    default: 'more',
    symptoms: ['same picture on both screens', 'cannot drag to the second screen'],
  }),
  'screens.oneScale': onOff({
    label: 'One scale',
    does: 'Give every screen of the session the same scale',
    default: false,
    symptoms: ['text too small', 'text of different size on two screens'],
  }),
  'screens.scale': oneOf({
    label: 'Scale of text',
    does: 'Size of text and controls: that of each screen, or one for all of them',
    options: ['as the screen', '100 %', '125 %', '150 %', '200 %'],
    default: 'as the screen',
    symptoms: ['text too small', 'text too large', 'windows do not fit'],
  }),
};
/** What a scale is as a number; null where each screen keeps its own. @example "125 %" is 1.25 */
export const scaleOf = (value: string): number | null => (value.endsWith(' %') ? Number(value.slice(0, -2)) / 100 : null);
