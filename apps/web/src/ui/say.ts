import { textsOf, type Language } from '@underpass/contracts/texts';
import { createInstance, type TFunction } from 'i18next';

/** How a page speaks: its texts, and figures as they are written in its language. */
export interface Say {
  language: Language;
  t: TFunction;
  /** A figure, whole from ten on, else with one decimal. */
  figure: (value: number) => string;
  day: (at: string | number) => string;
}

/** Fetches a language and speaks it. */
export async function speak(language: Language): Promise<Say> {
  const { texts } = await textsOf[language]();
  const instance = createInstance();
  await instance.init({
    lng: language,
    fallbackLng: false,
    keySeparator: false,
    nsSeparator: false,
    interpolation: { escapeValue: false },
    resources: { [language]: { translation: texts } },
  });
  const whole = new Intl.NumberFormat(language, { maximumFractionDigits: 0 });
  const tenth = new Intl.NumberFormat(language, { maximumFractionDigits: 1 });
  const days = new Intl.DateTimeFormat(language, { day: 'numeric', month: 'long', year: 'numeric' });
  return {
    language,
    t: instance.t,
    figure: (value) => (value >= 10 ? whole : tenth).format(value),
    day: (at) => days.format(new Date(at)),
  };
}
