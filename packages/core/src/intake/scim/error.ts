/** The words of what is wrong with a request [RFC 7644 table 9]. */
export type ScimFault =
  | 'invalidFilter'
  | 'tooMany'
  | 'uniqueness'
  | 'mutability'
  | 'invalidSyntax'
  | 'invalidPath'
  | 'noTarget'
  | 'invalidValue';

/** A request that cannot be done as it is. */
export class ScimError extends Error {
  constructor(
    readonly fault: ScimFault,
    message: string,
  ) {
    super(message);
  }
}
