import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { mergeConfig, setKey, switchSection } from '../index.js';

const valueOf = (text: string, section: string, key: string) =>
  mergeConfig([{ name: 'f', text }]).values.find((each) => each.section === section && each.key === key)?.value;
const done = (result: ReturnType<typeof setKey>): string => {
  if (!result.ok) throw new Error(`${result.fault.place} ${result.fault.problem}`);
  return result.value;
};

describe('one key is set', () => {
  test.each<[string, string, string, string]>([
    ['its spaces and the comment behind it stay', '[a]\nx = 1 ; why\n', '2', '[a]\nx = 2 ; why\n'],
    ['without spaces', '[a]\nx=1\n', '2', '[a]\nx=2\n'],
    ['with tabs and a space at the end', '[a]\n\tx\t=\t1  \n', '2', '[a]\n\tx\t=\t2  \n'],
    ['ends of lines stay', '[a]\r\nx = 1\r\ny = 3\r\n', '2', '[a]\r\nx = 2\r\ny = 3\r\n'],
    ['the lock stays', '[a]\nx! = 1\n', '2', '[a]\nx! = 2\n'],
    ['of two the one that counts', '[a]\nx = 1\nx = 9\n', '2', '[a]\nx = 1\nx = 2\n'],
    ['a section that comes again', '[a]\nx = 1\n[b]\ny = 1\n[a]\nx = 3\n', '2', '[a]\nx = 1\n[b]\ny = 1\n[a]\nx = 2\n'],
    ['no value yet', '[a]\nx =\n', '2', '[a]\nx =2\n'],
    ['no value, but a comment', '[a]\nx = ; none\n', '2', '[a]\nx = 2 ; none\n'],
    ['a quoted value with a comment sign', '[a]\nx = "1 ; 2" # 3\n', '2', '[a]\nx = 2 # 3\n'],
    ['an open quote is a value as written', '[a]\nx = "1 ; 2\n', '2', '[a]\nx = 2\n'],
    ['what stands behind a quote goes with it', '[a]\nx = "1" 2 ; 3\n', '2', '[a]\nx = 2\n'],
    ['a comment sign within a value', '[a]\nx = 1#2\n', '2', '[a]\nx = 2\n'],
    ['what wants quotes gets them', '[a]\nx = 1\n', ' say "a;b" ', '[a]\nx = " say \\"a;b\\" "\n'],
    ['nothing is quoted', '[a]\nx = 1\n', '', '[a]\nx = ""\n'],
    ['the last line has no end', '[a]\nx = 1', '2', '[a]\nx = 2'],
    ['a new key comes behind the last', '[a]\ny = 1\n\n; about b\n[b]\nz = 1\n', '2', '[a]\ny = 1\nx = 2\n\n; about b\n[b]\nz = 1\n'],
    ['a new key behind a last line without an end', '[a]\r\ny = 1', '2', '[a]\r\ny = 1\r\nx = 2'],
    ['a new key of an empty section', '[a]\n[b]\n', '2', '[a]\nx = 2\n[b]\n'],
    ['a new section', '[b]\ny = 1\n', '2', '[b]\ny = 1\n\n[a]\nx = 2\n'],
    ['a new section behind a line without an end', '[b]\r\ny = 1', '2', '[b]\r\ny = 1\r\n\r\n[a]\r\nx = 2\r\n'],
    ['an empty file', '', '2', '[a]\nx = 2\n'],
    ['a mark at its beginning', '\uFEFF[a]\nx = 1\n', '2', '\uFEFF[a]\nx = 2\n'],
    ['a key of a comment is none', '[a]\n; x = 1\ny = 1\n', '2', '[a]\n; x = 1\ny = 1\nx = 2\n'],
  ])('%s', (_, before, value, after) => {
    expect(done(setKey(before, 'a', 'x', value))).toBe(after);
    expect(valueOf(after, 'a', 'x')).toBe(value);
  });

  test.each<[string, string, string, string, string]>([
    ['[a]\n', 'a', 'x', 'one\ntwo', 'has a value of several lines'],
    ['[a]\n', 'a', 'x y', '1', 'is no key of such a file'],
    ['[a]\n', 'a', '', '1', 'is no key of such a file'],
    ['[a]\n', 'a]', 'x', '1', 'is no name of a section'],
    [';[a]\n;x = 1\n', 'a', 'x', '1', 'is switched off'],
  ])('%j: %s %s %j is refused', (text, section, key, value, problem) => {
    const result = setKey(text, section, key, value);
    expect(result.ok ? '' : result.fault.problem).toBe(problem);
  });
});

describe('a section is switched', () => {
  test.each<[string, string, string]>([
    ['its keys with it', '[a]\nx = 1\n\n[b]\ny = 1\n', ';[a]\n;x = 1\n\n[b]\ny = 1\n'],
    ['prose stays prose', '[a]\n; about x\nx = 1\n', ';[a]\n; about x\n;x = 1\n'],
    ['a key that was off before stays off', '[a]\n#x = 1\ny = 1\n', ';[a]\n;#x = 1\n;y = 1\n'],
    ['a mark at its beginning', '\uFEFF[a]\r\nx = 1', '\uFEFF;[a]\r\n;x = 1'],
    ['each of several of its name', '[a]\nx = 1\n[b]\n[a]\nz = 1\n', ';[a]\n;x = 1\n[b]\n;[a]\n;z = 1\n'],
    ['one that is off among them', '[a]\nx = 1\n;[a]\n;z = 1\n', ';[a]\n;x = 1\n;;[a]\n;;z = 1\n'],
  ])('off and on again: %s', (_, on, off) => {
    expect(done(switchSection(on, 'a', false))).toBe(off);
    expect(done(switchSection(off, 'a', true))).toBe(on);
    expect(mergeConfig([{ name: 'f', text: off }]).values.filter(({ section }) => section === 'a')).toEqual([]);
  });

  test.each<[string, string]>([
    ['# [a]\n# x = 1\n# what x is for\n[b]\n', '[a]\nx = 1\n# what x is for\n[b]\n'],
    ['#[a]\n#x = 1\n\n#y = 2\n;[b]\n;z = 1\n', '[a]\nx = 1\n\ny = 2\n;[b]\n;z = 1\n'],
    ['  ; [a] ; it is\n  ; x = see it = so\n', '  [a] ; it is\n  x = see it = so\n'],
  ])('on, as it came switched off: %j', (off, on) => {
    expect(done(switchSection(off, 'a', true))).toBe(on);
  });

  test('what is so already stays; what is not there is told; a key astray is told with its line', () => {
    expect(done(switchSection('[a]\n;x = 1\n', 'a', true))).toBe('[a]\n;x = 1\n');
    expect(done(switchSection(';[a]\n', 'a', false))).toBe(';[a]\n');
    expect(switchSection('[a]\n', 'c', true)).toMatchObject({ ok: false, fault: { place: 'section c' } });
    expect(switchSection('[a]\n;[b]\n;y = 1\nx = 1\n', 'a', false)).toMatchObject({
      ok: false,
      fault: { place: 'line 4', problem: 'is a key of [a] behind the switched off section [b]' },
    });
  });
});

describe('any file', () => {
  const line = fc.oneof(
    fc.constantFrom('[a]', '[b]', '; [a]', '#[b]', '', '  ', '; about it', '[a] ; here', '# x y = z'),
    fc
      .tuple(
        fc.constantFrom('', ';', '# ', '  '),
        fc.constantFrom('x', 'y', 'z!'),
        fc.constantFrom('=', ' = '),
        fc.string({ maxLength: 6 }),
      )
      .map(([sign, key, equals, value]) => `${sign}${key}${equals}${value.replace(/[\r\n]/g, '')}`),
    fc.string({ maxLength: 10 }).map((text) => text.replace(/[\r\n]/g, '')),
  );
  const file = fc
    .tuple(fc.boolean(), fc.array(fc.tuple(line, fc.constantFrom('\n', '\r\n', '\r')), { maxLength: 14 }), fc.boolean())
    .map(
      ([mark, lines, ends]) =>
        (mark ? '\uFEFF' : '') + lines.map(([text, end], i) => (i === lines.length - 1 && !ends ? text : text + end)).join(''),
    );
  const parts = (text: string) => text.split(/(?<=\r\n|\n|\r(?!\n))/);
  const all = (text: string) =>
    new Map(mergeConfig([{ name: 'f', text }]).values.map(({ section, key, value }) => [`${section}.${key}`, value]));

  test('a key that was set is read so, every other as before, and at most one line is another', () => {
    fc.assert(
      fc.property(
        file,
        fc.constantFrom('a', 'b', 'new'),
        fc.constantFrom('x', 'w'),
        fc.string({ maxLength: 8 }),
        (text, section, key, raw) => {
          const value = raw.replace(/[\r\n]/g, '');
          const result = setKey(text, section, key, value);
          if (!result.ok) return void expect(result.fault.problem).toBe('is switched off');
          const [before, after] = [all(text), all(result.value)];
          expect(after.get(`${section}.${key}`)).toBe(value);
          before.set(`${section}.${key}`, value);
          expect(after).toEqual(before);
          // what was there is there in its order, but for the line that was replaced
          const [old, now] = [parts(text), parts(result.value)];
          let at = 0;
          const kept = old.filter((each) => {
            const found = now.findIndex((other, i) => i >= at && (other === each || other.trimEnd() === each.trimEnd()));
            if (found >= 0) at = found + 1;
            return found >= 0;
          });
          expect(old.length - kept.length).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 2000 },
    );
  });

  test('off and on again is the same file, byte for byte', () => {
    fc.assert(
      fc.property(file, (text) => {
        const off = switchSection(text, 'a', false);
        if (!off.ok || off.value === text) return;
        expect(switchSection(off.value, 'a', true)).toEqual({ ok: true, value: text });
        expect([...all(off.value)].filter(([id]) => id.startsWith('a.'))).toEqual([]);
        expect(Object.fromEntries(all(off.value))).toEqual(Object.fromEntries([...all(text)].filter(([id]) => !id.startsWith('a.'))));
      }),
      { numRuns: 2000 },
    );
  });
});
