/** An address as the bits it has, and how many there are; null where it is none [RFC 791, RFC 4291 2.2]. */
function bitsOf(text: string): { bits: bigint; width: 32 | 128 } | null {
  const plain = text.trim().toLowerCase().replace(/%.*$/, '');
  if (/^\d{1,3}(\.\d{1,3}){3}$/.test(plain)) {
    const parts = plain.split('.').map(Number);
    if (parts.some((part) => part > 255)) return null;
    return { bits: parts.reduce((sum, part) => (sum << 8n) | BigInt(part), 0n), width: 32 };
  }
  return sixBits(plain);
}

function sixBits(text: string): { bits: bigint; width: 32 | 128 } | null {
  // the last four bytes may be written as those of the older kind
  const tail = /^(.*:)(\d{1,3}(?:\.\d{1,3}){3})$/.exec(text);
  const four = tail ? bitsOf(tail[2] as string) : null;
  if (tail && !four) return null;
  const written = tail && four ? `${tail[1]}${(four.bits >> 16n).toString(16)}:${(four.bits & 0xffffn).toString(16)}` : text;
  const halves = written.split('::');
  if (halves.length > 2) return null;
  const [left = [], right = []] = halves.map((half) => (half === '' ? [] : half.split(':')));
  const missing = 8 - left.length - right.length;
  if (halves.length === 1 ? left.length !== 8 : missing < 1) return null;
  const groups = [...left, ...Array<string>(halves.length === 1 ? 0 : missing).fill('0'), ...right];
  if (groups.some((group) => !/^[0-9a-f]{1,4}$/.test(group))) return null;
  return { bits: groups.reduce((sum, group) => (sum << 16n) | BigInt(`0x${group}`), 0n), width: 128 };
}

/**
 * How narrow a range is that an address is in: the length of its prefix; null where it is not in it, or one of both cannot be read.
 * @param range in CIDR form [RFC 4632 3.1, RFC 4291 2.3]
 * @example prefixIn('192.0.2.7', '192.0.2.0/24') // 24
 */
export function prefixIn(address: string, range: string): number | null {
  const [base = '', length, more] = range.split('/');
  const [own, net] = [bitsOf(address), bitsOf(base)];
  if (!own || !net || own.width !== net.width || more !== undefined || (length !== undefined && !/^\d{1,3}$/.test(length))) return null;
  const prefix = length === undefined ? net.width : Number(length);
  if (prefix > net.width) return null;
  const shift = BigInt(net.width - prefix);
  return own.bits >> shift === net.bits >> shift ? prefix : null;
}
