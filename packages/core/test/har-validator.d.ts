/** The package comes without types; only this one function is used. */
declare module 'har-validator' {
  export function har(content: unknown): Promise<unknown>;
}
