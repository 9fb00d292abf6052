import type { Verdict } from '@underpass/contracts/words';

export const verdictWords: Record<Verdict, string> = { clear: 'Clear', limited: 'Limited', blocked: 'Blocked', unknown: 'Unknown' };
