/** Does work that stands back between steps without standing back. */
export function atOnce<T>(work: Generator<void, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
