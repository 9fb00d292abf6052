import { faultsOfKinds, kindsWithFaults, type Estate, type ObjectKind } from '@underpass/contracts';
import { faultsOfEstate, type EstateFault } from '@underpass/core';

/** Kinds of which no object shows by itself whether it is right. */
export const judgedTogether: ReadonlySet<ObjectKind> = new Set([
  'group',
  'publication',
  'resource',
  'pool',
  'person',
  'requirement',
  ...kindsWithFaults,
]);

/** What is wrong only in the whole: what core knows, and what the kinds say of themselves. */
export const faultsOfWhole = (estate: Estate): EstateFault[] => [...faultsOfEstate(estate), ...faultsOfKinds(estate)];
