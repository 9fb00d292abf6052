import { useQuery } from '@tanstack/react-query';
import { languages, spokenOf, type Language } from '@underpass/contracts/texts';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { speak, type Say } from '../ui/say.js';

/** The language of the page: what somebody chose on it, else what the link names, else the browser's. */
export function useLanguage(): { say: Say | undefined; choose: (language: Language) => void } {
  const asked = useSearchParams()[0].get('lang') ?? '';
  const [chosen, choose] = useState<Language | null>(null);
  const language = chosen ?? (Object.hasOwn(languages, asked) ? (asked as Language) : spokenOf(navigator.languages));
  const { data: say } = useQuery({
    queryKey: ['say', language],
    queryFn: () => speak(language),
    staleTime: Infinity,
    placeholderData: (old) => old,
  });
  useEffect(() => {
    if (!say) return undefined;
    document.documentElement.lang = say.language;
    document.title = say.t('title');
    return () => {
      document.documentElement.lang = 'en';
    };
  }, [say]);
  return { say, choose };
}
