/** 4 × 35 786 km / c: up and down, there and back. No measured round trip can be below it. */
export const geostationaryFloorMs = (4 * 35_786_000) / 299_792.458;
