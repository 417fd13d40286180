import { Matrix, solve } from 'ml-matrix';
import * as v from 'valibot';
import { progressOf } from '../progress/index.ts';
import { isShortWait } from '../steps/index.ts';
import { readingOf } from '../trial/index.ts';
import { type Air, driedBetween, dryingFactor } from '../units/index.ts';
import { SURE, type Trialled } from './learn.ts';

/** The best short wait in an air, minutes, with its range of nine in ten, and how many patches it rests on. */
export interface ShortWait {
  readonly min: number;
  readonly lo: number;
  readonly hi: number;
  readonly patches: number;
}

/** One patch's wait before pulling: the logarithm of minutes of the reference air, and what landed, %. */
export const ShortWaitSeen = v.object({ method: v.string(), x: v.number(), landed: v.number() });
export type ShortWaitSeen = v.InferOutput<typeof ShortWaitSeen>;

/**
 * The wait before pulling that landed most, learnt from ladders and all other patches of a method whose wait is short:
 * a parabola of landed over the logarithm of the real wait, waits brought to the reference air, its top found by
 * least squares and its error by the delta method. Nothing with fewer than five patches or four different waits, or when they show no top.
 *
 * @example learntShortWait('film-pull', [], air); // => undefined
 */
export function learntShortWait(
  method: string,
  lessons: readonly { readonly shortWaits: readonly ShortWaitSeen[] }[],
  air: Air,
): ShortWait | undefined {
  const points = lessons.flatMap(l => l.shortWaits).filter(p => p.method === method);
  if (points.length < 5 || new Set(points.map(p => p.x.toFixed(2))).size < 4) return undefined;
  const middle = points.reduce((sum, p) => sum + p.x, 0) / points.length;
  const X = new Matrix(points.map(p => [1, p.x - middle, (p.x - middle) ** 2]));
  const y = Matrix.columnVector(points.map(p => p.landed));
  const information = X.transpose().mmul(X);
  const b = solve(information, X.transpose().mmul(y)).to1DArray();
  const covariance = solve(information, Matrix.eye(3));
  if (!(b[2] < 0)) return undefined;
  const top = -b[1] / (2 * b[2]);
  const xs = points.map(p => p.x - middle);
  if (top < Math.min(...xs) || top > Math.max(...xs)) return undefined;
  const rest = X.mmul(Matrix.columnVector(b)).sub(y).to1DArray();
  const variance = rest.reduce((sum, r) => sum + r * r, 0) / Math.max(1, points.length - 3);
  const slope = [-1 / (2 * b[2]), b[1] / (2 * b[2] ** 2)];
  const error = Math.sqrt(
    variance *
      (slope[0] ** 2 * covariance.get(1, 1) +
        2 * slope[0] * slope[1] * covariance.get(1, 2) +
        slope[1] ** 2 * covariance.get(2, 2)),
  );
  const factor = dryingFactor(air);
  const at = (x: number) => Math.exp(x + middle) * factor;
  return {
    min: at(top),
    lo: at(Math.max(Math.min(...xs), top - SURE * error)),
    hi: at(Math.min(Math.max(...xs), top + SURE * error)),
    patches: points.length,
  };
}

/** The real waits of a trial whose planned wait is short, with what landed; none for other methods. */
export function shortWaitsSeen({ plan, records }: Trialled): ShortWaitSeen[] {
  if (!isShortWait(plan.used.method.usual.dryHours * 60)) return [];
  const progress = progressOf(plan, records);
  return progress.lines.flatMap(line => {
    const i = line.chain.findIndex(l => l.step.wait.kind === 'planned');
    const [from, to] = [line.doneAt[i], line.doneAt[i + 1]];
    const landed = readingOf(records, line.patch.code)?.reading.reading.landed;
    if (from === undefined || to === undefined || landed == null || to <= from) return [];
    return [{ method: plan.method, x: Math.log(driedBetween(progress.airs, from, to) / 60_000), landed }];
  });
}
