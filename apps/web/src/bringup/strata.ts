import type { BringupBoot } from '@underpass/contracts';

type Steps = BringupBoot['steps'];
/** A step as it is drawn: where it lies, and whether it is longer than it is drawn. */
export interface Stratum {
  name: string;
  y: number;
  height: number;
  long: boolean;
  steps: readonly (Steps[number] | undefined)[];
}

/** Thinnest and thickest a step is drawn, px, and how much a second is. */
const [thin, thick, perSecond] = [25, 84, 7];

/**
 * The strata of one start, or of two side by side: like steps lie at the same depth, as thick as the longer of them lasts; very long ones
 * are cut, and say so by a break mark.
 */
export function strataOf(first: Steps, second?: Steps): { strata: Stratum[]; height: number } {
  let y = 0;
  const strata = first.map((step, i): Stratum => {
    const other = second?.[i];
    const wanted = Math.max(step.durationMs, other?.durationMs ?? 0) * (perSecond / 1000);
    const height = Math.min(thick, Math.max(thin, wanted));
    const stratum = { name: step.name, y, height, long: wanted > thick, steps: [step, other] };
    y += height;
    return stratum;
  });
  return { strata, height: y };
}
