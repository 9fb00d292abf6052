/** A fault of the input: told on standard error, exit status 2. */
export class CommandError extends Error {}
