import { bad, good, type Result } from '../../units/result.js';
import { readLine } from './line.js';
import { written } from './written.js';

/** A line with what ends it, so that lines joined are the text again. */
interface Line {
  body: string;
  end: string;
  /** Section that the line is in: that of the last header above it, or its own. */
  section: string;
  /** The same, where a header that is a comment counts too. */
  below: string;
  read: ReturnType<typeof readLine>;
}

function linesOf(text: string): Line[] {
  const lines: Line[] = [];
  let [section, below] = ['', ''];
  for (const [whole, body = '', end = ''] of text.matchAll(/([^\r\n]*)(\r\n|\n|\r|$)/g)) {
    if (whole === '') continue;
    const read = readLine(lines.length === 0 ? body.replace(/^\uFEFF/, '') : body);
    if (read.is === 'section') section = below = read.name;
    if (read.is === 'comment' && read.switchedOff !== null) below = read.switchedOff;
    lines.push({ body, end, section, below, read });
  }
  return lines;
}
const joined = (lines: readonly Pick<Line, 'body' | 'end'>[]): string => lines.map(({ body, end }) => body + end).join('');

/** Whether a comment holds a key with its value: prose has none, or spaces behind its sign and before “=”. */
function isOffKey({ body, read }: Line): boolean {
  if (read.is !== 'comment' || read.switchedOff !== null) return false;
  const text = body
    .replace(/^\uFEFF/, '')
    .trimStart()
    .replace(/^[;#]+/, '');
  const behind = readLine(text);
  return behind.is === 'value' && (!/\s/.test(behind.key) || !/^\s/.test(text));
}
const isOffHeader = ({ read }: Line, section: string): boolean => read.is === 'comment' && read.switchedOff === section;

/**
 * Switches a section of a file off, or on again: its header and its keys become comments, or stop being some. Nothing else of the file is
 * touched, byte for byte, and off and on again gives the same file; comments of prose within it stay as they are.
 * @returns the text; a fault where there is no such section to be switched, and the same text where it is as wanted already
 * @example switchSection(';[picture]\n;frameCap = 24\n', 'picture', true) gives '[picture]\nframeCap = 24\n'
 */
export function switchSection(text: string, section: string, on: boolean): Result<string> {
  const lines = linesOf(text);
  const isOn = lines.some(({ read }) => read.is === 'section' && read.name === section);
  const isOff = lines.some((line) => isOffHeader(line, section));
  if (!isOn && !isOff) return bad(`section ${section}`, 'is not in the file, on or off', 'name one that is, or set a key of it');
  if (on ? !isOff : !isOn) return good(text);
  if (on) {
    let within = false;
    return good(
      joined(
        lines.map((line) => {
          if (line.read.is === 'section' || (line.read.is === 'comment' && line.read.switchedOff !== null))
            within = isOffHeader(line, section);
          return within && (isOffHeader(line, section) || isOffKey(line)) ? { ...line, body: uncommented(line.body) } : line;
        }),
      ),
    );
  }
  const stray = lines.findIndex((line) => line.section === section && line.below !== section && line.read.is === 'value');
  if (stray >= 0)
    return bad(
      `line ${stray + 1}`,
      `is a key of [${section}] behind the switched off section [${lines[stray]?.below}]`,
      'move it up to its section, so that it can be switched on again with it',
    );
  return good(
    joined(
      lines.map((line) => {
        const { body, read, below } = line;
        const isKey = read.is === 'value' && line.section === section;
        const touched = below === section && (read.is === 'section' || isKey || isOffHeader(line, section) || isOffKey(line));
        return touched ? { ...line, body: body.replace(/^\uFEFF?\s*/, '$&;') } : line;
      }),
    ),
  );
}

/** Without the sign of its comment, and the one space behind it that people put there. */
const uncommented = (body: string): string => body.replace(/^(\uFEFF?\s*)[;#] ?/, '$1');

/**
 * Sets one key of a section. A line that has it keeps its place, its spaces, its lock and the comment behind it; of several the one that
 * counts. A key that is not there is put behind the last one of its section, and a section that is not there at the end of the file. All
 * else stays byte for byte.
 * @returns the text; a fault where the section is switched off, or where the value cannot stand on one line
 * @example setKey('[picture]\nframeCap = 24 ; films\n', 'picture', 'frameCap', '30') gives '[picture]\nframeCap = 30 ; films\n'
 */
export function setKey(text: string, section: string, key: string, value: string): Result<string> {
  if (/[\r\n]/.test(value)) return bad(key, 'has a value of several lines', 'give one line');
  if (!/^[^\s=;#[\]"!][^\s=;#\]"!]*$/.test(key))
    return bad(key || 'key', 'is no key of such a file', 'leave out spaces, =, ;, #, ", ! and brackets');
  if (/[\r\n\]]/.test(section) || section.trim() !== section || section === '')
    return bad(section || 'section', 'is no name of a section', 'leave out brackets and spaces around it');
  const lines = linesOf(text);
  const end = lines.find((line) => line.end !== '')?.end ?? '\n';
  const has = lines.findLastIndex((line) => line.section === section && line.read.is === 'value' && line.read.key === key);
  if (has >= 0) return good(joined(lines.map((line, i) => (i === has ? { ...line, body: replaced(line.body, value) } : line))));
  const header = lines.findLastIndex(({ read }) => read.is === 'section' && read.name === section);
  if (header < 0) {
    if (lines.some(({ read }) => read.is === 'comment' && read.switchedOff === section))
      return bad(`section ${section}`, 'is switched off', 'switch it on first');
    const before = lines.length === 0 || text === '\uFEFF' ? text : `${text}${lines.at(-1)?.end === '' ? end : ''}${end}`;
    return good(`${before}[${section}]${end}${key} = ${written(value)}${end}`);
  }
  // behind its last key, above what is blank or a comment before the next section
  const last = lines.findLastIndex(
    (line, i) => i >= header && line.section === section && (line.read.is === 'value' || line.read.is === 'section'),
  );
  const at = lines[last] as Line;
  const fresh = { body: `${key} = ${written(value)}`, end: at.end };
  return good(joined([...lines.slice(0, last), { ...at, end: at.end || end }, fresh, ...lines.slice(last + 1)]));
}

/** The line with another value: what stands before it and the comment behind it stay. */
function replaced(body: string, value: string): string {
  const from = body.indexOf('=') + 1;
  const space = /^[ \t]*/.exec(body.slice(from))?.[0] ?? '';
  const start = from + space.length;
  const rest = body.slice(valueEnd(body, start));
  // a comment begins only behind white space
  return `${body.slice(0, start)}${written(value)}${/^[;#]/.test(rest) ? ' ' : ''}${rest}`;
}

/** Where a value ends that begins at `start`: before the white space of a comment, or that at the end of the line. */
function valueEnd(body: string, start: number): number {
  const trimmed = body.trimEnd().length;
  const isBegin = (at: number) => body[at] === ';' || body[at] === '#';
  const isSpace = (at: number) => body[at] === ' ' || body[at] === '\t';
  if (isBegin(start) && isSpace(start - 1)) return start;
  let at = start;
  if (body[start] === '"') {
    for (at = start + 1; at < trimmed && body[at] !== '"'; at++) if (body[at] === '\\' && /["\\]/.test(body[at + 1] ?? '')) at++;
    // an open quote, and what stands behind a closed one, are a part of the value
    if (at >= trimmed) return trimmed;
    let behind = at + 1;
    while (isSpace(behind)) behind++;
    return behind >= trimmed || (isBegin(behind) && behind > at + 1) ? at + 1 : trimmed;
  }
  for (; at < trimmed; at++)
    if (isBegin(at) && isSpace(at - 1)) {
      while (at > start && isSpace(at - 1)) at--;
      return at;
    }
  return trimmed;
}
