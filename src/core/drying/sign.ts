import { type PatchProgress, progressOf, type Trialled } from '../progress/index.ts';
import { isOne, MEDIUMS } from '../shelf/index.ts';
import type { Link } from '../steps/index.ts';
import { driesMedium } from './dries.ts';

/** Pieces that came to the same point within so long are looked at together, ms. */
export const TOGETHER_MS = 10 * 60_000;

/** What shows that a piece is ready for what comes next, and of which pieces one look tells. */
export interface Sign {
  readonly question: string;
  /** Codes, the one that is meant first. */
  readonly patches: readonly string[];
}

/**
 * What shows that a piece is ready, asked of the piece itself: the step's own sign, or the medium's where that dries
 * after it; nothing where there is nothing to see.
 */
export function questionFor(
  { settings }: Pick<PatchProgress, 'settings'>,
  { step }: Link,
): string | undefined {
  if (step.ready) return step.ready;
  if (!driesMedium(step, settings)) return undefined;
  if (isOne(MEDIUMS.milky, settings.medium.kind)) return 'No milk left, no longer cool, not tacky?';
  if (isOne(MEDIUMS.glues, settings.medium.kind))
    return 'No longer cool to the touch, and not tacky at the edge?';
  return undefined;
}

/**
 * What has to be seen of a coat before the next step may be done to a patch: its medium's sign, where that dried and
 * nobody has found it ready yet. Nothing where how long it dries is what the trial compares: then it waits as planned,
 * ready or not. One look tells of all patches with the same medium and coat that came so far together.
 *
 * @example signBefore({ plan, records: [] }, patch.code); // => undefined
 */
export function signBefore({ plan, records }: Trialled, code: string): Sign | undefined {
  const { lines } = progressOf(plan, records);
  const at = (line: PatchProgress) => line.doneAt.indexOf(undefined) - 1;
  const own = lines.find(l => l.patch.code === code);
  if (!own || at(own) < 0 || own.plannedMin === undefined || own.asked?.ready) return undefined;
  const last = own.chain[at(own)];
  const question = driesMedium(last.step, own.settings) ? questionFor(own, last) : undefined;
  if (!question) return undefined;
  const since = own.doneAt[at(own)]!;
  const { medium, coatMm } = own.settings;
  const isLike = (line: PatchProgress) =>
    line !== own &&
    !line.spoilt &&
    !line.asked?.ready &&
    line.settings.medium.id === medium.id &&
    line.settings.coatMm === coatMm &&
    line.chain[at(line)]?.step.id === last.step.id &&
    Math.abs(line.doneAt[at(line)]! - since) < TOGETHER_MS;
  return { question, patches: [code, ...lines.filter(isLike).map(l => l.patch.code)] };
}
