// Repeatable bad inputs: what failed once is found again by its number.

/** A small generator of 32 bits [mulberry32]. */
export function seeded(seed) {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  return { next, below: (n) => Math.floor(next() * n), pick: (list) => list[Math.floor(next() * list.length)] };
}

const pieces = [
  '',
  '\0',
  '\ud800',
  '"',
  "'",
  '""',
  ',',
  ';',
  ':',
  '\n',
  '\r\n',
  '\t',
  '[',
  ']',
  '{',
  '}',
  '&a ',
  '*a',
  '!!js/function x',
  '<<: *a',
  '---\n',
  '...\n',
  '- ',
  '|\n  ',
  '=HYPERLINK("x")',
  '__proto__',
  'constructor',
  '-1',
  '1e309',
  '-0',
  'NaN',
  'null',
  'true',
  '0x10',
  '9'.repeat(400),
  'é',
  '\u202e',
  '\ufeff',
  '%00',
  '../../etc/passwd',
  '<script>',
  'x'.repeat(5000),
  ' '.repeat(3000),
  '['.repeat(400),
  'time=1 '.repeat(200),
  '\\u0000',
  '\\',
  '\u2028',
  '1999-13-45T99:99:99Z',
  '0001-01-01T00:00:00Z',
];

/** A text made wrong in a few places: parts cut, doubled, moved or replaced. */
export function spoiled(text, random) {
  let out = text;
  for (let n = 1 + random.below(4); n > 0; n--) {
    const at = random.below(out.length + 1);
    const length = random.below(Math.min(60, out.length - at) + 1);
    switch (random.below(6)) {
      case 0:
        out = out.slice(0, at) + out.slice(at + length);
        break;
      case 1:
        out = out.slice(0, at) + random.pick(pieces) + out.slice(at);
        break;
      case 2:
        out = out.slice(0, at) + random.pick(pieces) + out.slice(at + length);
        break;
      case 3:
        out = out.slice(0, at) + out.slice(at, at + length).repeat(1 + random.below(20)) + out.slice(at);
        break;
      case 4: {
        const from = random.below(out.length + 1);
        out = out.slice(0, at) + out.slice(from, from + length) + out.slice(at);
        break;
      }
      default:
        out = out.slice(0, at) + String.fromCharCode(random.below(0x250)) + out.slice(at + 1);
    }
  }
  return out;
}

/** Any JSON value, of few levels, now and then absurd. */
export function anything(random, depth = 3) {
  switch (random.below(depth > 0 ? 9 : 6)) {
    case 0:
      return null;
    case 1:
      return random.next() < 0.5;
    case 2:
      return random.pick([0, -1, 1.5, 1e308, -1e-9, 2 ** 53, 255]);
    case 3:
    case 4:
      return random.pick(pieces);
    case 5:
      return `k${random.below(9)}`;
    case 6:
    case 7:
      return Array.from({ length: random.below(5) }, () => anything(random, depth - 1));
    default:
      return Object.fromEntries(
        Array.from({ length: random.below(5) }, () => [
          random.pick(['id', 'name', 'change', 'summary', 'type', 'value', 'kind', 'text', '__proto__', '']),
          anything(random, depth - 1),
        ]),
      );
  }
}
