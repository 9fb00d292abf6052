import type { Hypothesis, Measurement, ObjectKind } from '@underpass/contracts';

/** An object that was written: created where it was not there before, removed where it is not there after. */
export interface ObjectChange {
  kind: ObjectKind;
  id: string;
  before: object | null;
  after: object | null;
}
/** What is supposed of a line or of how an endpoint draws, until somebody has done it. */
export type Supposition = Exclude<Hypothesis, { suppose: 'object' }>;

/** What is laid over a model: objects written, measurements that came, and what is supposed. */
export interface Over {
  writes: readonly ObjectChange[];
  measurements: readonly Measurement[];
  supposed: readonly Supposition[];
}

/** What a supposition is about, as `kind/id`. @example of a location’s line "location/hall" */
export const supposedPlace = (one: Supposition): string =>
  one.suppose === 'drawing' ? `endpoint/${one.endpoint}` : `${one.kind}/${one.id}`;
