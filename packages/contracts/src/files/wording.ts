/** What a schema says is wrong, in plain words: without the validator’s own opening words, and choices as a list. */
export const plainMessage = (message: string): string =>
  message
    .replace(/^Invalid input: /, '')
    .replace(
      /^Invalid option: expected one of (.*)$/,
      (_, list: string) => `must be one of ${list.replaceAll('"', '').replaceAll('|', ', ')}`,
    )
    .replace(/^Invalid UUID$/, 'must be the id of something kept here');
