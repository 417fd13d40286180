import { handsOnMin } from '../steps/index.ts';
import { NO_LEVEL, type TrialPlan, type TrialRecord } from '../trial/index.ts';
import { type PatchProgress, progressOf } from './progress.ts';

/** How long a patch was left in the wait that can be planned. */
export interface Waited {
  readonly patch: string;
  /** What it was meant to wait, minutes, in the air that was noted. */
  readonly plannedMin: number;
  readonly waitedMin: number;
  /** It is no piece of evidence for what it was meant to wait: it left the wait's window, or came nearer to another level. */
  readonly strayed: boolean;
}

/**
 * What every patch really waited, where it is known: from the end of the step before to when hands began with the next.
 *
 * @example waitsOf(plan, records); // => []
 */
export function waitsOf(plan: TrialPlan, records: readonly TrialRecord[]): Waited[] {
  const f = plan.factors.findIndex(x => x.key === 'dryHours');
  const levels = f < 0 ? [] : plan.factors[f].levels.map(h => Math.log(Number(h) * 60));
  return progressOf(plan, records).lines.flatMap(line => {
    const waitedMin = waitedBy(line);
    const link = line.chain.find(l => l.step.wait.kind === 'planned');
    if (waitedMin === undefined || link?.step.wait.kind !== 'planned') return [];
    const plannedMin = line.plannedMin ?? line.settings.dryHours * 60;
    const { lo, hi } = link.step.wait;
    const x = Math.log(Math.max(waitedMin, 1e-3));
    const off = Math.abs(x - Math.log(plannedMin));
    // A level that is not its own and nearer: compared by ratio, as drying times are.
    const isNearer = line.patch.levels.length > 0 && levels.some(level => Math.abs(x - level) < off - 1e-9);
    const isOutside = waitedMin < plannedMin * lo * 0.995 || waitedMin > plannedMin * hi * 1.005;
    // A method whose wait is not varied has no level to stray from.
    const hasLevel = line.patch.levels[f] !== NO_LEVEL;
    return [{ patch: line.patch.code, plannedMin, waitedMin, strayed: hasLevel && (isNearer || isOutside) }];
  });
}

function waitedBy(line: PatchProgress): number | undefined {
  const i = line.chain.findIndex(l => l.step.wait.kind === 'planned');
  const next = line.chain[i + 1];
  const [from, to] = [line.doneAt[i], line.doneAt[i + 1]];
  if (i < 0 || !next || from === undefined || to === undefined || to <= from) return undefined;
  const begun = line.begunAt[i + 1] ?? to - handsOnMin(next.step, line) * 60_000;
  return Math.max(0, begun - from) / 60_000;
}
