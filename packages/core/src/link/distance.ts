/** A place on the earth, degrees north and east. */
export interface Place {
  latitude: number;
  longitude: number;
}

/** Great-circle distance by the haversine formula on a sphere of 6371 km [Sinnott 1984]. @returns km */
export function distanceKm(a: Place, b: Place): number {
  const rad = Math.PI / 180;
  const dLat = (b.latitude - a.latitude) * rad;
  const dLon = (b.longitude - a.longitude) * rad;
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(a.latitude * rad) * Math.cos(b.latitude * rad) * Math.sin(dLon / 2) ** 2;
  return 2 * 6371 * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Light in fibre covers 200 km a millisecond one way: no round trip is shorter. @returns ms */
export const lightFloorMs = (km: number): number => (2 * km) / 200;

/** Round trip to expect over a distance between data centres: 1.5 × the floor for detours, and 1 ms; common practice, no source. */
export const pathMs = (km: number): number => 1.5 * lightFloorMs(km) + 1;
