/** Thrown by a column's reader; the table reader turns it into a problem with file and line. */
export class CellError extends Error {}
