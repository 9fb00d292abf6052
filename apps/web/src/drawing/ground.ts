/** Four short strokes below the ground line, as on a survey sheet. */
export const hatchMarks = (x: number, y: number): string => [0, 5, 10, 15].map((dx) => `M${x + dx} ${y}l-5 5.5`).join('');
