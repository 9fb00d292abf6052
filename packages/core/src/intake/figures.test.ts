import { describe, expect, it } from '@jest/globals';
import { readAmount, readDay, readFigure, styleOf, type FigureStyle } from './figures.js';

const unclear: FigureStyle = { comma: 'unclear', days: 'unclear' };
const german: FigureStyle = { comma: 'decimals', days: 'day first' };
const english: FigureStyle = { comma: 'thousands', days: 'month first' };
const text = (read: ReturnType<typeof readFigure>) => ('text' in read ? read.text : null);

describe('figures as people write them', () => {
  it.each([
    ['12', unclear, false, '12'],
    ['-3.5', unclear, false, '-3.5'],
    ['−70', unclear, false, '-70'],
    ['1,5', unclear, false, '1.5'],
    ['1,25', unclear, false, '1.25'],
    ['1.024,5', unclear, false, '1024.5'],
    ['1,024.5', unclear, false, '1024.5'],
    ['1 024', unclear, false, '1024'],
    ["1'024.5", unclear, false, '1024.5'],
    ['1.024.000', unclear, false, '1024000'],
    ['1,024,000', unclear, false, '1024000'],
    // one mark before three digits: only the column, or the field, says what it is
    ['1,024', unclear, false, null],
    ['1,024', german, false, '1.024'],
    ['1,024', english, false, '1024'],
    ['1,024', unclear, true, '1024'],
    ['1.024', unclear, false, '1.024'],
    ['1.024', german, false, '1024'],
    ['1.024', unclear, true, '1024'],
    ['1.02', unclear, true, '1.02'],
    ['1.2.3', unclear, false, null],
    ['twelve', unclear, false, null],
    ['', unclear, false, null],
  ] as const)('%s is read (%j, whole: %s) as %s', (cell, style, whole, wanted) => {
    expect(text(readFigure(cell, style, whole))).toBe(wanted);
  });

  it('says both meanings of one that has two', () => {
    expect(readFigure('1,024', unclear, false)).toEqual({ problem: '“1,024” may be 1024 or 1.024', wanted: '1024, or 1.024' });
  });

  it('finds how a column is written by the cells that can be read one way alone', () => {
    expect(styleOf(['1,024', '2,5']).comma).toBe('decimals');
    expect(styleOf(['1,024', '2.5']).comma).toBe('thousands');
    expect(styleOf(['1,024', '1.024,5']).comma).toBe('decimals');
    expect(styleOf(['1,024', '1,024.5']).comma).toBe('thousands');
    expect(styleOf(['1,024', '2,048']).comma).toBe('unclear');
    expect(styleOf(['2,5', '2.5']).comma).toBe('unclear');
    expect(styleOf(['12/12/2026', '13/12/2026']).days).toBe('day first');
    expect(styleOf(['12/12/2026', '12/13/2026']).days).toBe('month first');
    expect(styleOf(['12/12/2026', '12/11/2026']).days).toBe('unclear');
    expect(styleOf(['13/12/2026', '12/13/2026']).days).toBe('unclear');
  });

  it.each([
    // points before three digits are thousands as likely as not: they say nothing
    [['1.024'], 'unclear'],
    [['1.02'], 'thousands'],
    [['1.024', '2.5'], 'thousands'],
    [['-1,5 GB'], 'decimals'],
    [['about 1,5'], 'decimals'],
    [["1'024,5"], 'decimals'],
    [['1 024.5'], 'thousands'],
    // a mark at the end is the sentence’s
    [['1,024.'], 'unclear'],
    [['1.024,'], 'unclear'],
    [['no figure'], 'unclear'],
    [[',5', '.5'], 'unclear'],
    [[], 'unclear'],
  ] as const)('finds by the cells %j: %s', (cells, comma) => {
    expect(styleOf(cells).comma).toBe(comma);
  });

  it('finds days by the beginning of a cell alone, with two figures of the year at least', () => {
    expect(styleOf([' 13/12/26 at noon']).days).toBe('day first');
    expect(styleOf(['room 13/12/2026']).days).toBe('unclear');
    expect(styleOf(['13/12/2']).days).toBe('unclear');
  });

  it.each([
    ['2026-13-01'],
    ['2026-00-10'],
    ['2026-02-30'],
    ['2026-01-32'],
    ['2026-01-00'],
    ['31.13.2026'],
    // a day too many, and a month too many: each is another day, of which one part is right
    ['2025-13-31'],
    ['32.12.2026'],
  ])('the day %s is none there is', (cell) => {
    expect(readDay(cell, unclear)).toEqual({ problem: `“${cell}” is no day there is`, wanted: 'a day such as 2026-12-31' });
  });

  it('keeps a figure as it was written where its unit is the field’s own', () => {
    expect(readAmount('0008 MB', 'memoryMB', 'RAM', unclear, true)).toEqual({ text: '0008' });
    expect(readAmount('0008 GB', 'memoryMB', 'RAM', unclear, true)).toEqual({ text: '8192' });
    expect(readAmount('1,5 MB', 'memoryMB', 'RAM', unclear, true)).toEqual({ text: '1.5' });
    expect(readAmount('1,5 kbit/s', 'downMbps', 'Rate', unclear, false)).toEqual({ text: '0.0015' });
    expect(readAmount('1.2.3 GB', 'memoryMB', 'RAM', unclear, true)).toEqual({ problem: '“1.2.3” is not a number', wanted: 'a number' });
  });

  it.each([
    ['8 GB', 'memoryMB', 'RAM', '8192'],
    ['8', 'memoryMB', 'Arbeitsspeicher (GB)', '8192'],
    ['8', 'memoryMB', 'RAM GB', '8192'],
    ['8192', 'memoryMB', 'RAM', '8192'],
    ['0,5 GiB', 'memoryMB', 'RAM', '512'],
    ['4096 MB', 'memoryMB', 'RAM (GB)', '4096'],
    ['1 Gbit/s', 'downMbps', 'Download', '1000'],
    ['50', 'downMbps', 'Download (Mbit/s)', '50'],
    ['2500 kbps', 'upMbps', 'Upload', '2.5'],
    ['0.02 s', 'delayMs', 'Latency', '20'],
    ['-67 dBm', 'wifiSignalDbm', 'Signal', '-67'],
    ['30 %', 'activeShare', 'aktiv', '0.3'],
    ['30%', 'activeShare', 'aktiv', '0.3'],
    ['0.3', 'activeShare', 'aktiv', '0.3'],
    ['30 %', 'downMbps', 'Download', null],
    ['8 litres', 'memoryMB', 'RAM', null],
    ['8 GB', 'cores', 'Cores', null],
    ['fast', 'downMbps', 'Download', null],
  ])('%s for %s under “%s” is %s', (cell, field, head, wanted) => {
    expect(text(readAmount(cell, field, head, unclear, field !== 'downMbps' && field !== 'upMbps' && field !== 'activeShare'))).toBe(
      wanted,
    );
  });

  it.each([
    ['2026-12-31', unclear, '2026-12-31'],
    ['2026/1/2', unclear, '2026-01-02'],
    ['31.12.2026', unclear, '2026-12-31'],
    ['1.2.26', unclear, '2026-02-01'],
    ['31/12/2026', unclear, '2026-12-31'],
    ['12/31/2026', unclear, '2026-12-31'],
    ['02/02/2026', unclear, '2026-02-02'],
    ['02/03/2026', unclear, null],
    ['02/03/2026', german, '2026-03-02'],
    ['02/03/2026', english, '2026-02-03'],
    ['2026-12-31T10:00:00Z', unclear, '2026-12-31'],
    ['29.02.2028', unclear, '2028-02-29'],
    ['29.02.2026', unclear, null],
    ['31.04.2026', unclear, null],
    ['soon', unclear, null],
  ] as const)('the day %s (%j) is %s', (cell, style, wanted) => {
    expect(text(readDay(cell, style))).toBe(wanted);
  });
});
