/**
 * The bore's closed outline for half thicknesses of equal columns: flat in a column, joined by a cubic from `reach` px before a
 * rule to `reach` px after it with both control points on the rule.
 */
export function boreOutline(half: readonly number[], column: number, left: number, axis: number, reach = 20): string {
  const rule = (i: number) => left + i * column;
  const n = half.length;
  const f = (value: number) => value.toFixed(2);
  let top = `M${f(rule(0))},${f(axis - (half[0] ?? 0))}`;
  let bottom = '';
  for (let i = 1; i < n; i++) {
    const x = rule(i);
    const [a, b] = [half[i - 1] as number, half[i] as number];
    top += `L${f(x - reach)},${f(axis - a)}C${f(x)},${f(axis - a)} ${f(x)},${f(axis - b)} ${f(x + reach)},${f(axis - b)}`;
    bottom = `L${f(x + reach)},${f(axis + b)}C${f(x)},${f(axis + b)} ${f(x)},${f(axis + a)} ${f(x - reach)},${f(axis + a)}${bottom}`;
  }
  const last = half[n - 1] ?? 0;
  return `${top}L${f(rule(n))},${f(axis - last)}L${f(rule(n))},${f(axis + last)}${bottom}L${f(rule(0))},${f(axis + (half[0] ?? 0))}Z`;
}
