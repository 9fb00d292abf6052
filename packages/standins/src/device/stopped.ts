/** A device that cannot go on, and at which step. */
export class Stopped extends Error {
  constructor(
    readonly step: string,
    message: string,
  ) {
    super(message);
  }
}
