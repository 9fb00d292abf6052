/** “25 November at 08:11”, in the reader's own time zone. */
export const moment = (at: string | number): string =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' });

/** “30 June 2027”. */
export const day = (at: string | number): string =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });
