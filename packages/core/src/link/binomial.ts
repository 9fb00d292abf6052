/** Natural logarithm of the gamma function, Lanczos approximation (g = 7, 9 terms), relative error below 1e-13 for x > 0. */
export function logGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.abs(Math.sin(Math.PI * x))) - logGamma(1 - x);
  const terms = [
    676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905, -0.13857109526572012,
    9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  const z = x - 1;
  const sum = terms.reduce((total, term, i) => total + term / (z + i + 1), 0.99999999999980993);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** Probability of exactly k of n at chance p each. */
export function binomialPmf(n: number, k: number, p: number): number {
  if (k < 0 || k > n) return 0;
  if (p <= 0) return k === 0 ? 1 : 0;
  if (p >= 1) return k === n ? 1 : 0;
  return Math.exp(logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1) + k * Math.log(p) + (n - k) * Math.log1p(-p));
}

/** Probability of at most k of n, by summing the shorter tail; each term follows from its neighbour by their ratio. */
export function binomialCdf(n: number, k: number, p: number): number {
  if (k < 0) return 0;
  if (k >= n || p <= 0) return 1;
  if (p >= 1) return 0;
  const odds = p / (1 - p);
  const lower = k < n * p;
  let term = binomialPmf(n, lower ? k : k + 1, p);
  let sum = term;
  if (lower)
    for (let i = k; i > 0 && term > sum * 1e-17; i--) {
      term *= i / (n - i + 1) / odds;
      sum += term;
    }
  else
    for (let i = k + 1; i < n && term > sum * 1e-17; i++) {
      term *= ((n - i) / (i + 1)) * odds;
      sum += term;
    }
  return Math.min(1, Math.max(0, lower ? sum : 1 - sum));
}

/** Exact two-sided interval of a share, k seen in n tries [Clopper & Pearson 1934]. Level 0 to 1, usually 0.95. */
export function shareInterval(n: number, k: number, level = 0.95): { low: number; high: number } {
  const tail = (1 - level) / 2;
  const solve = (holds: (p: number) => boolean) => {
    let [low, high] = [0, 1];
    for (let i = 0; i < 40; i++) {
      const middle = (low + high) / 2;
      if (holds(middle)) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
  // with none or all seen the bounds have a closed form
  return {
    low: k === 0 ? 0 : k === n ? tail ** (1 / n) : solve((p) => 1 - binomialCdf(n, k - 1, p) < tail),
    high: k === n ? 1 : k === 0 ? 1 - tail ** (1 / n) : solve((p) => binomialCdf(n, k, p) > tail),
  };
}
