import { progressOf, type Trialled, windowAfter } from '../progress/index.ts';
import { WEAR } from '../steps/index.ts';
import { LOOKS_WET, type ReadPhoto } from '../trial/index.ts';

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
  const dries = step.wait.kind === 'fixed' && (step.wait.dries || (step.wears && WEAR[step.wears].wets));
  if (!dries) return undefined;
  const opens = windowAfter(line, line.chain[last], line.doneAt[last]!, airs)?.opens;
  return opens !== undefined && opens > at ? opens : undefined;
}

/** Two dry photos of the same kind of patch differ by less. */
const ALIKE = 0.05;

/**
 * Whether a patch that was said to be dry looks damp: its ground is darker under the picture than round it, and darker
 * than it was on those that are known to have been dry (a medium that soaks in darkens wood for good).
 *
 * @example looksWet(0.2, []); // => true
 * @example looksWet(0.2, [{ reading: { reading: { darker: 0.17 } }, photo: { stage: 'dry' } }]); // => false
 */
export function looksWet(darker: number | undefined, others: readonly Seen[]): boolean {
  const known = others.filter(o => o.photo.stage === 'dry').map(o => o.reading.reading.darker ?? 0);
  const usual = Math.max(0, ...known);
  return darker !== undefined && darker >= LOOKS_WET && darker > usual + ALIKE;
}

/** What of a reading tells how dark its ground is. */
interface Seen {
  readonly reading: { readonly reading: Pick<ReadPhoto['reading']['reading'], 'darker'> };
  readonly photo: Pick<ReadPhoto['photo'], 'stage'>;
}
