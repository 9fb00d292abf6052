import { describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { cvt } from './index.js';

/*
 * Timings as another program generates them: edid-decode (git 2022-03-15) --cvt w=W,h=H,fps=HZ[,rb=1]. Width, height, Hz, reduced, clock
 * in MHz, totals across and down, sync across from and to, sync down from and to, and the refresh rate that comes out.
 */
type Row = [number, number, number, boolean, number, number, number, number, number, number, number, number];
const rows = JSON.parse(readFileSync(new URL('fixtures/cvt.json', import.meta.url), 'utf8')) as Row[];

describe('coordinated video timings', () => {
  test.each(rows)('%i × %i at %i Hz, reduced %s', (width, height, hz, reduced, clockMhz, ...others) => {
    const timing = cvt(width, height, hz, reduced);
    const [totalWidthPx, totalLines, hsyncStart, hsyncEnd, vsyncStart, vsyncEnd, refreshHz] = others;
    expect(timing).toEqual({
      ...{ clockMhz, totalWidthPx, totalLines, hsyncStart, hsyncEnd, vsyncStart, vsyncEnd },
      refreshHz: expect.closeTo(refreshHz, 3),
    });
  });

  test('of many sizes and rates', () => {
    expect(rows.length).toBeGreaterThan(100);
    expect(new Set(rows.map(([width, height]) => `${width}x${height}`)).size).toBeGreaterThan(20);
  });
});
