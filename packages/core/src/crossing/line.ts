import type { CrossingFacts } from './facts.js';

/** Where something supposed of a crossing's line is said: at the location whose line it is, or at the endpoint that has its own. */
export const lineOf = ({
  location,
  endpoint,
}: Pick<CrossingFacts, 'location' | 'endpoint'>): { kind: 'location' | 'endpoint'; id: string } =>
  location.ownLines ? { kind: 'endpoint', id: endpoint.id } : { kind: 'location', id: location.id };
