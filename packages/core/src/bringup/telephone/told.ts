import { bootCauses, type BootCause } from '../boot/index.js';

/** What a cause is and what mends it, in the words of a place as far as they are known; what is not is left open. */
export function causeTold(code: BootCause, words: Readonly<Record<string, string>>): { says: string; mend: string; shows: string } {
  const { says, mend, shows } = bootCauses[code];
  // what is told of the security has its kind in the place of the name
  const { network: _, ...others } = words;
  const own = code !== 'wifi security differs' ? words : words.security === undefined ? others : { ...others, network: words.security };
  const filled = (text: string) => text.replace(/\{(\w+)\}/g, (__, name: string) => own[name] ?? '…');
  return { says: filled(says), mend: filled(mend), shows };
}
