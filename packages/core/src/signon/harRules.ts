import type { SignonRule } from '@underpass/contracts';

/**
 * Rules that read a recorded sign-in: the first one that fits a request says which step it is of. A * stands for any text.
 * Common practice of naming addresses, no source; an organisation replaces them by its own.
 */
export const shippedRules: readonly SignonRule[] = [
  { step: 'second factor', path: '*second-factor*' },
  { step: 'second factor', path: '*otp*' },
  { step: 'password', method: 'POST', path: '*sign-in*' },
  { step: 'password', method: 'POST', path: '*login*' },
  { step: 'password', method: 'POST', path: '*auth*' },
  { step: 'sign-in form', path: '*sign-in*' },
  { step: 'sign-in form', path: '*login*' },
  { step: 'sign-in form', path: '*auth*' },
  { step: 'wake', path: '*wake*' },
  { step: 'session create', path: '*session*' },
  { step: 'broker', path: '*broker*' },
  { step: 'broker', path: '*launch*' },
  { step: 'broker', path: '*open/*' },
  { step: 'list of resources', path: '*resources*' },
  { step: 'first useful picture', path: '*picture*' },
  { step: 'client start', path: '*.js' },
  { step: 'client start', path: '*.css' },
];

/** Whether a text fits a pattern in which * stands for any text, whatever its case. Takes time in proportion to the text. */
export function fits(pattern: string, text: string): boolean {
  const parts = pattern.toLowerCase().split('*');
  const within = text.toLowerCase();
  const [first = '', ...rest] = parts;
  if (!within.startsWith(first)) return false;
  let at = first.length;
  if (rest.length === 0) return at === within.length;
  const last = rest.pop() as string;
  for (const part of rest) {
    const found = within.indexOf(part, at);
    if (found < 0) return false;
    at = found + part.length;
  }
  return within.length - last.length >= at && within.endsWith(last);
}

/** The step a request is of, or null. */
export const stepOf = (rules: readonly SignonRule[], method: string, host: string, path: string): SignonRule['step'] | null =>
  rules.find(
    (rule) =>
      (rule.method === undefined || rule.method === method) &&
      (rule.host === undefined || fits(rule.host, host)) &&
      (rule.path === undefined || fits(rule.path, path)),
  )?.step ?? null;
