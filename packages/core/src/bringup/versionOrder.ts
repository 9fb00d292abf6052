import { compareVersions } from '../settings/index.js';
import { bad, good, type Result } from '../units/result.js';

/** Longest text that is taken for a version. */
const longest = 200;

/**
 * Compares two versions as their makers count, refusing what is none: field by field as whole numbers, one that is missing as 0; a
 * letter stands above 0 and below 1. Never as text: 3.10 is above 3.9 and 3.4_118 above 3.4_95 (common practice, no source).
 * @returns −1 where the first is lower, 1 where it is higher, 0 where they are the same
 * @example versionOrder('3.4a', '3.4.1') is −1
 */
export function versionOrder(first: string, second: string): Result<-1 | 0 | 1> {
  for (const text of [first, second])
    if (text.length > longest || !/^\d+(?:[._]\d+)*[a-z]?$/i.test(text.trim()))
      return bad(
        `“${text.slice(0, 60)}”`,
        'is no version',
        'give numbers with . or _ between, with at most one letter at the end, such as 3.4_118',
      );
  return good(compareVersions(first.trim(), second.trim()) as -1 | 0 | 1);
}
