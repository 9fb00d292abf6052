/** Where and what is wrong with an input, and what would be right. Errors in core are values. */
export interface Fault {
  place: string;
  problem: string;
  remedy: string;
}
/** A value, or what is wrong with what was given. */
export type Result<T> = { ok: true; value: T } | { ok: false; fault: Fault };
/** A result that is there. */
export const good = <T>(value: T): Result<T> => ({ ok: true, value });
/** An input that is wrong. @param place where @param problem what is wrong @param remedy what would be right */
export const bad = (place: string, problem: string, remedy: string): Result<never> => ({ ok: false, fault: { place, problem, remedy } });
