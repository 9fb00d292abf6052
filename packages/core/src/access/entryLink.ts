/** Reading distance to size of a code, about 10 to 1; common practice, no source. */
const distanceToSize = 10;
/** Modules of quiet zone around a code on each side [ISO/IEC 18004]. */
export const quietModules = 4;
/** Smallest module that ordinary printers and cameras agree on, mm; common practice, no source. */
const smallestModuleMm = 0.4;

/** Size of a code without its quiet zone. */
export interface CodeSize {
  sizeMm: number;
  moduleMm: number;
  /** Size with the quiet zone. */
  wholeMm: number;
  /** Reading distance the size is good for, m. */
  distanceM: number;
}

/**
 * Size at which a code is printed to be read from a distance.
 * @param distanceM 0.1 to 10 m
 * @param modules modules along one side, 21 to 177 [ISO/IEC 18004]
 */
export function codeSize(distanceM: number, modules: number): CodeSize {
  const sizeMm = Math.max((distanceM * 1000) / distanceToSize, modules * smallestModuleMm);
  const moduleMm = sizeMm / modules;
  return { sizeMm, moduleMm, wholeMm: sizeMm + 2 * quietModules * moduleMm, distanceM: (sizeMm * distanceToSize) / 1000 };
}

/** Path of a link below a portal's address: it names the publication and the resource, and nothing else. */
export const entryPath = (publication: string, resource: string): string => `/open/${publication}/${resource}`;
