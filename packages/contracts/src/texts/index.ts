/** Languages that people are told things in who are no engineers; the screens of the engineer stay English. */
export const languages = {
  en: 'English',
  de: 'Deutsch',
  fr: 'Français',
  es: 'Español',
  nl: 'Nederlands',
  pl: 'Polski',
} as const;
export type Language = keyof typeof languages;

/** The first of somebody's languages that is spoken here; English where none is. */
export function spokenOf(wanted: readonly string[]): Language {
  for (const each of wanted) {
    const short = each.toLowerCase().split('-')[0] ?? '';
    if (Object.hasOwn(languages, short)) return short as Language;
  }
  return 'en';
}

type Texts = Readonly<Record<string, string>>;
/** Fetched when they are asked for, one language at a time. */
export const textsOf: Readonly<Record<Language, () => Promise<{ texts: Texts }>>> = {
  en: () => import('./en.js'),
  de: () => import('./de.js'),
  fr: () => import('./fr.js'),
  es: () => import('./es.js'),
  nl: () => import('./nl.js'),
  pl: () => import('./pl.js'),
};
