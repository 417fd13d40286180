import type { TrialRecord } from './record-kinds.ts';

/**
 * What is worked out of records, and of something beside them, kept for as long as nothing is recorded: asked again, the
 * same object. Records are only ever added, so with as many as before they are the same ones.
 *
 * @example remembering(all => all.length)(records); // => 3
 */
export function remembering<Beside extends readonly unknown[], T>(
  work: (records: readonly TrialRecord[], ...beside: Beside) => T,
): (records: readonly TrialRecord[], ...beside: Beside) => T {
  const known = new WeakMap<
    readonly TrialRecord[],
    { readonly count: number; readonly beside: Beside; readonly result: T }
  >();
  return (records, ...beside) => {
    const before = known.get(records);
    if (before?.count === records.length && before.beside.every((b, i) => b === beside[i]))
      return before.result;
    const result = work(records, ...beside);
    known.set(records, { count: records.length, beside, result });
    return result;
  };
}
