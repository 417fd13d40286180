import { progressOf, type Trialled, windowAfter } from '../progress/index.ts';

/** Steps after which a piece is wet whatever the method says of a wait. */
const WETS: readonly string[] = ['wet', 'soak'];

/**
 * Until when (ms) a patch is still wet by what was recorded, if a photo of it was taken at `at` (ms): the end of the
 * drying that follows the last step done before; infinity where it was wetted and nothing was done since. Nothing where
 * it is dry by then, or where nothing wetted it.
 *
 * @example wetUntil({ plan, records }, patch.code, Date.parse(records[0].at)); // => undefined
 */
export function wetUntil({ plan, records }: Trialled, code: string, at: number): number | undefined {
  const { lines, airs } = progressOf(
    plan,
    records.filter(r => Date.parse(r.at) <= at),
  );
  const line = lines.find(l => l.patch.code === code);
  const last = line?.doneAt.findLastIndex(done => done !== undefined) ?? -1;
  if (!line || last < 0) return undefined;
  const { step } = line.chain[last];
  if (WETS.includes(step.does)) return Number.POSITIVE_INFINITY;
  if (step.wait.kind !== 'fixed' || !step.wait.dries) return undefined;
  const opens = windowAfter(line, line.chain[last], line.doneAt[last]!, airs)?.opens;
  return opens !== undefined && opens > at ? opens : undefined;
}
