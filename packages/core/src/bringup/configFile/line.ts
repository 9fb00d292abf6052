/** A line of a configuration file, by what it is. */
export type ConfigLine =
  | { is: 'empty' }
  | { is: 'comment'; switchedOff: string | null }
  | { is: 'section'; name: string; problem: string | null }
  | { is: 'value'; key: string; locked: boolean; value: string; problem: string | null }
  | { is: 'wrong'; because: UnreadBecause; problem: string };
/** Why a line cannot be read. */
export type UnreadBecause = 'no equals' | 'no key' | 'no bracket';

const isSpace = (letter: string | undefined): boolean => letter === ' ' || letter === '\t';
const beginsComment = (letter: string | undefined): boolean => letter === ';' || letter === '#';

/**
 * Reads one line, without its end. A line that begins with ; or # is a comment; within a line either begins one behind white space
 * and outside of quotes.
 */
export function readLine(raw: string): ConfigLine {
  const line = raw.trim();
  if (line === '') return { is: 'empty' };
  if (beginsComment(line[0])) return { is: 'comment', switchedOff: /^[;#]+\s*\[([^\]]+)\]\s*(?:[;#].*)?$/.exec(line)?.[1]?.trim() ?? null };
  if (line[0] === '[') return sectionOf(line);
  const equals = line.indexOf('=');
  const before = withoutComment(equals < 0 ? line : line.slice(0, equals));
  if (equals < 0 || before.cut) return { is: 'wrong', because: 'no equals', problem: `has no “=”: “${before.text.slice(0, 60)}”` };
  const typed = before.text;
  const locked = typed.endsWith('!');
  const key = (locked ? typed.slice(0, -1) : typed).trim();
  if (key === '') return { is: 'wrong', because: 'no key', problem: 'has no key before “=”' };
  return { is: 'value', key, locked, ...valueOf(line.slice(equals + 1)) };
}

function sectionOf(line: string): ConfigLine {
  const close = line.indexOf(']');
  if (close < 0) return { is: 'wrong', because: 'no bracket', problem: `begins a section without “]”: “${line.slice(0, 60)}”` };
  const behind = line.slice(close + 1).trim();
  return {
    is: 'section',
    name: line.slice(1, close).trim(),
    problem: behind === '' || beginsComment(behind[0]) ? null : `has “${behind.slice(0, 40)}” behind “]”, which counts for nothing`,
  };
}

/** Text up to a comment behind white space. */
function withoutComment(text: string): { text: string; cut: boolean } {
  for (let at = 1; at < text.length; at++)
    if (beginsComment(text[at]) && isSpace(text[at - 1])) return { text: text.slice(0, at).trim(), cut: true };
  return { text: text.trim(), cut: false };
}

/** What stands behind “=”. */
function valueOf(text: string): { value: string; problem: string | null } {
  const start = text.search(/[^ \t]/);
  if (start < 0) return { value: '', problem: null };
  // right behind “=” a comment begins only after white space, as anywhere else
  if (text[start] !== '"') {
    if (start > 0 && beginsComment(text[start])) return { value: '', problem: null };
    return { value: withoutComment(text.slice(start)).text, problem: null };
  }
  let value = '';
  for (let at = start + 1; at < text.length; at++) {
    const letter = text[at] as string;
    if (letter === '\\' && (text[at + 1] === '"' || text[at + 1] === '\\')) value += text[++at] as string;
    else if (letter === '"') {
      const behind = text.slice(at + 1);
      const rest = behind.trim();
      if (rest === '' || (beginsComment(rest[0]) && isSpace(behind[0]))) return { value, problem: null };
      return { value: text.trim(), problem: `has “${rest.slice(0, 40)}” behind the closing quote` };
    } else value += letter;
  }
  return { value: text.trim(), problem: 'opens a quote and does not close it' };
}
