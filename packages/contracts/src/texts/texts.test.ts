import { describe, expect, test } from '@jest/globals';
import { languages, spokenOf, textsOf, type Language } from './index.js';

const all = Object.keys(languages) as Language[];
const others = all.filter((language) => language !== 'en');
const load = async (language: Language) => (await textsOf[language]()).texts;
const plural = /_(zero|one|two|few|many|other)$/;
const bases = (texts: Readonly<Record<string, string>>) => new Set(Object.keys(texts).map((key) => key.replace(plural, '')));
const places = (text: string) => [...text.matchAll(/{{(\w+)}}/g)].map(([, name]) => name).sort();

describe('texts for people', () => {
  test.each(others)('%s has every text, none too many, and every plural form the language knows', async (language) => {
    const [en, own] = [await load('en'), await load(language)];
    expect([...bases(own)].sort()).toEqual([...bases(en)].sort());
    const forms = new Intl.PluralRules(language).resolvedOptions().pluralCategories;
    for (const base of bases(en)) {
      const counted = Object.keys(en).some((key) => key === `${base}_other`);
      const keys = Object.keys(own).filter((key) => key.replace(plural, '') === base);
      expect([base, keys.sort()]).toEqual([base, counted ? forms.map((form) => `${base}_${form}`).sort() : [base]]);
    }
  });

  test.each(others)('%s is translated, keeps what is filled in, and parts word and meaning where English does', async (language) => {
    const [en, own] = [await load('en'), await load(language)];
    // the same word in both languages
    const same = new Set(['picture.clear', 'stop', 'start']);
    for (const [key, text] of Object.entries(own)) {
      const english = en[key] ?? en[key.replace(plural, '_other')] ?? '';
      expect([key, places(text)]).toEqual([key, places(english)]);
      expect([key, text.split('|').length]).toEqual([key, english.split('|').length]);
      if (english.length > 12 && !same.has(key)) expect([key, text]).not.toEqual([key, english]);
      expect([key, text.trim(), /\s{2,}(?!\n)/.test(text.replaceAll('\n', ''))]).toEqual([key, text, false]);
      // questions, colons and semicolons stand apart in French, and nowhere else
      if (language === 'fr') expect([key, /[^\s\u00a0\u202f][;!?](?=\s|$)/.test(text.replaceAll(/{{\w+}}/g, ''))]).toEqual([key, false]);
      else expect([key, / [;:!?](?=\s|$)/.test(text)]).toEqual([key, false]);
    }
  });

  test('no trade words stand in them, in any language', async () => {
    for (const language of all)
      for (const [key, text] of Object.entries(await load(language)))
        expect([language, key, /latenc|latenz|latencia|jitter|bandwidth|bandbreite|\bUDP\b|\bTCP\b|WebGL|codec/i.test(text)]).toEqual([
          language,
          key,
          false,
        ]);
  });

  test('somebody’s first language that is spoken here is taken', () => {
    expect([['de-AT', 'en'], ['pt-BR', 'PL', 'en'], ['sv'], [], ['constructor']].map(spokenOf)).toEqual(['de', 'pl', 'en', 'en', 'en']);
  });
});
