import type { Trialled } from '../progress/index.ts';
import { chainOf, type Link } from '../steps/index.ts';
import { standing, type WearTest } from '../trial/index.ts';
import { wetUntil } from './wet-until.ts';

/**
 * What wear test a patch had been through last by `at` (ms), by what was recorded; nothing where it was as it was made.
 *
 * @example wornBy({ plan, records }, patch.code, Date.parse(records[0].at)); // => undefined
 */
export function wornBy({ plan, records }: Trialled, code: string, at: number): WearTest | undefined {
  const patch = plan.patches.find(p => p.code === code);
  if (!patch) return undefined;
  const tests = new Map(
    chainOf(plan, patch).flatMap(({ step: { id, wears } }) => (wears ? [[id, wears]] : [])),
  );
  const done = standing(records)
    .filter(r => r.kind === 'step' && !r.skipped && (r.patch === code || r.also?.includes(code)))
    .flatMap(r =>
      r.kind === 'step' && tests.has(r.step) ? [{ at: Date.parse(r.at), test: tests.get(r.step) }] : [],
    )
    .filter(r => r.at <= at)
    .sort((a, b) => a.at - b.at);
  return done.at(-1)?.test;
}

/**
 * What a photo shows that was said to be of a patch worn by `said`, or as it was made, where its records say otherwise:
 * the test it had been through last when it was taken (`'none'`: it was not worn by `said` yet). Nothing where they
 * agree, or the records are silent.
 *
 * @example wornOtherwise({ plan, records }, patch.code, Date.parse(records[0].at), undefined); // => undefined
 */
export function wornOtherwise(
  trialled: Trialled,
  code: string,
  at: number,
  said: WearTest | undefined,
): WearTest | 'none' | undefined {
  const by = wornBy(trialled, code, at);
  if (by === said) return undefined;
  if (by) return by;
  // A test nobody recorded at all is not contradicted; one that was recorded only later is.
  return wornBy(trialled, code, Number.POSITIVE_INFINITY) ? 'none' : undefined;
}

/**
 * How a patch looks at `at` (ms), about to have `link` done to it, as a photo is filed: wet in the midst of the work and
 * while it dries; dry when it is to be looked at, or once it was worn, with what by.
 *
 * @example stageNow({ plan, records }, patch.code, line.chain[0], 0); // => { stage: 'wet' }
 */
export function stageNow(
  trialled: Trialled,
  code: string,
  { step }: Link,
  at: number,
): { readonly stage: 'wet' | 'dry'; readonly worn?: WearTest } {
  const worn = wornBy(trialled, code, at);
  const isDry = (step.does === 'look' || worn !== undefined) && wetUntil(trialled, code, at) === undefined;
  return { stage: isDry ? 'dry' : 'wet', ...(worn ? { worn } : {}) };
}
