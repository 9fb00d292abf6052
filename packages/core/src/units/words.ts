/** A number with its thing. @example (1, "device") is "1 device", (2, "device") "2 devices" */
export const plural = (n: number, word: string, many = `${word}s`): string => `${n} ${n === 1 ? word : many}`;
