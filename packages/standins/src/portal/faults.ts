/** Troubles that can be switched on, one by one. */
export const faults = [
  { id: 'refuse', name: 'The directory refuses every sign-in' },
  { id: 'late', name: 'The second factor is given one second only' },
  { id: 'slow-list', name: 'The list of resources takes three seconds' },
  { id: 'short-list', name: 'The last resource is left out of the list' },
  { id: 'broker', name: 'The broker refuses to give a host' },
  { id: 'no-wake', name: 'A sleeping host does not wake' },
  { id: 'no-session', name: 'No session is created' },
] as const;
export type Fault = (typeof faults)[number]['id'];
export const isFault = (id: string): id is Fault => faults.some((fault) => fault.id === id);
