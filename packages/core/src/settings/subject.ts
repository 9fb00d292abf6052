import type { ClientKind, Endpoint, Layer, LineKind, Setting } from '@underpass/contracts';

/** What the layers and their conditions look at. */
export interface SettingSubject {
  deviceClass: string;
  location: string;
  /** Group ids from the lowest rank to the highest: the last one is the nearest. */
  groups: readonly string[];
  person: string;
  endpoint: string;
  ownership: Endpoint['ownership'];
  lineKind: LineKind;
  metered: boolean;
  clientKind: ClientKind;
  guest: boolean;
  inside: boolean;
}

/** How near each layer is, the farthest first. */
export const layerOrder: Record<Layer, number> = { organisation: 0, 'device class': 1, location: 2, group: 3, person: 4, endpoint: 5 };

/** How near an entry is to the subject: its layer, and for groups the rank; −1 where it is for something else. */
export function nearness(entry: Setting, subject: SettingSubject): number {
  switch (entry.layer) {
    case 'organisation':
      return 0;
    case 'device class':
      return entry.target === subject.deviceClass ? 1 : -1;
    case 'location':
      return entry.target === subject.location ? 2 : -1;
    case 'group': {
      const rank = subject.groups.indexOf(entry.target);
      return rank < 0 ? -1 : 3 + rank / (subject.groups.length + 1);
    }
    case 'person':
      return entry.target === subject.person ? 4 : -1;
    case 'endpoint':
      return entry.target === subject.endpoint ? 5 : -1;
  }
}

/** Whether everything a condition names is so for the subject; no condition always holds. */
export function conditionHolds(entry: Setting, subject: SettingSubject): boolean {
  const condition = entry.condition;
  if (!condition) return true;
  for (const field in condition) {
    const wanted = condition[field as keyof typeof condition];
    if (wanted !== undefined && subject[field as keyof typeof condition] !== wanted) return false;
  }
  return true;
}
