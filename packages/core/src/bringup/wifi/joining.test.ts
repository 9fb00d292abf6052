import { describe, expect, test } from '@jest/globals';
import { joiningSteps, spelled } from '../index.js';

describe('joining by telephone', () => {
  test('a key is read sign by sign, and what is easily mistaken is told apart', () => {
    expect(spelled('Ab-1 lO0I"Å')).toEqual([
      'capital A',
      'b',
      'dash',
      'the digit one',
      'a space',
      'small L',
      'capital o',
      'the digit nought',
      'capital i',
      'double quote',
      'capital Å',
    ]);
    // every printable sign of ASCII has a word of its own or is one that is read as it is
    const all = Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i));
    expect(new Set(spelled(all.join(''))).size).toBe(95);
    for (const word of spelled(all.join(''))) expect(word).toMatch(/^[a-z0-9]$|[a-z]{2}|^capital [A-Z]$/);
  });

  test('a hidden network is typed by name, an open one asks for no key', () => {
    const open = joiningSteps({ name: 'Hall', security: 'nopass', hidden: false }).join(' ');
    expect([open.includes('key, type it'), open.includes('choose “Hall”')]).toEqual([false, true]);
    const hidden = joiningSteps({ name: 'Hall', security: 'SAE', hidden: true }).join(' ');
    expect([hidden.includes('does not say its name'), hidden.includes('WPA3'), hidden.includes('key, type it')]).toEqual([
      true,
      true,
      true,
    ]);
  });
});
