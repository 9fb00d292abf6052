/**
 * A cell that a spreadsheet would take for a formula begins with = + - @ or a control character. An apostrophe before it makes
 * it text there; read here again it is taken off, so that nothing changes on the way [OWASP, CSV Injection].
 */
const formula = /^'*[=+\-@\t\r\n]/;
const number = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i;

export const harmless = (cell: string): string => (formula.test(cell) && !number.test(cell) ? `'${cell}` : cell);
export const plainCell = (cell: string): string => (cell.startsWith("'") && formula.test(cell.slice(1)) ? cell.slice(1) : cell);
