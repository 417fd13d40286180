import { solve } from './solve.ts';
import { ALWAYS } from './spans.ts';
import type { Job, Workload } from './workload.ts';

/** What would make a problem fit that does not: only what was tried and works. */
export interface Remedies {
  /** Windows of the stuck job that, were they wide open, would let it in: the action after which one waits. */
  readonly windows: readonly { readonly job: string; readonly after: string }[];
  /** How many jobs, in the order of work, fit at once. */
  readonly fewer: number;
  readonly helper: boolean;
  readonly otherOrder: boolean;
  /** Being there at other times would do. */
  readonly otherTimes: boolean;
}

const FOREVER = Number.MAX_SAFE_INTEGER / 4;
const TRY = { rounds: 0, seed: 1, prove: 0 };
const fits = (problem: Workload) => solve(problem, TRY).ok;

/** Why a problem has no schedule and what would give it one, found by trying each. `stuck` is the job that did not fit. */
export function whyNot(problem: Workload, stuck: string): Remedies {
  const job = problem.jobs.find(j => j.id === stuck)!;
  const { hands, jobs } = problem;
  const windows: { job: string; after: string }[] = [];
  for (const op of job.ops) {
    if (!op.gap) continue;
    // The same wait of every job: where one cannot be kept, the others like it cannot either.
    const open = jobs.map(
      (j): Job => ({
        ...j,
        ops: j.ops.map(o => (o.gap && o.id === op.id ? { ...o, gap: { ...o.gap, max: FOREVER } } : o)),
      }),
    );
    if (fits({ ...problem, jobs: open })) windows.push({ job: stuck, after: op.id });
  }
  let [lo, hi] = [0, jobs.length - 1];
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if (fits({ ...problem, jobs: jobs.slice(0, mid) })) lo = mid;
    else hi = mid - 1;
  }
  return {
    windows,
    fewer: lo,
    helper: hands.length > 0 && fits({ ...problem, hands: [...hands, { ...hands[0], name: 'helper' }] }),
    otherOrder: jobs.some(j => j.turn) && fits({ ...problem, jobs: jobs.map(({ turn: _, ...j }) => j) }),
    otherTimes: fits({ ...problem, hands: hands.map(h => ({ ...h, there: ALWAYS })) }),
  };
}
