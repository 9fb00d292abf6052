import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

/** Of 0 to 4: from 3 on it withstands 10^8 guesses, as many as a stolen hash is tried with at little cost. */
const wanted = 3;
/** What is looked at; the search takes the square of the length, and nobody is weak behind this. */
const looked = 64;
/** Letters and digits that are not of the person's own words. */
const leastLeft = 6;
let judge: ZxcvbnFactory | null = null;

/** Why a password is too easy, or null. Known ones, keyboard rows, repetitions and the person's own words count as what they are. */
export function faultOfPassword(password: string, own: readonly string[]): string | null {
  judge ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const words = own.flatMap((text) => [text, ...text.split('@'), ...text.split(/[^\p{L}\p{N}]+/u)]).filter((word) => word.length > 2);
  const { score } = judge.check(password.slice(0, looked), words);
  // own words in any writing count for nothing: what is left of it has to do alone
  const left = words
    .map((word) => word.toLowerCase())
    .sort((a, b) => b.length - a.length)
    .reduce((text, word) => text.replaceAll(word, ''), password.toLowerCase())
    .replace(/[^\p{L}\p{N}]/gu, '');
  return score >= wanted && left.length >= leastLeft
    ? null
    : 'is easy to guess: it is common, a pattern of keys, or made of the person’s own name. Three or four words that do not belong together are good.';
}
