import type { Batch, Gap, Job, Workload } from './workload.ts';

/** As late as any moment can be, from now on, ms. */
export const LATEST = 1e11;

/** One action, for one patch or for several that are handled together. */
export interface Node {
  /** The jobs it belongs to, and which of their actions it is. */
  readonly of: readonly { readonly job: number; readonly k: number }[];
  readonly hands: number;
  readonly brush?: string;
  readonly batch?: Batch;
  /** When it may and should start at the earliest and the latest, ms from now on. */
  readonly from: number;
  readonly to: number;
  readonly aim?: number;
  readonly until?: number;
}

/** What lies between two actions. */
export interface Wait extends Partial<Gap> {
  readonly before: number;
  readonly after: number;
  readonly min: number;
  /** From how long on later is no longer as good. */
  readonly until?: number;
}

/** A stay in a place: from the start of `enters` (before now without it) to the start of `leaves`, or to the end of `enters`. */
export interface Stay {
  readonly place: string;
  readonly enters?: number;
  readonly leaves?: number;
}

/** A workload as actions and what lies between them; all times are ms from `now` on. */
export interface Graph {
  readonly problem: Workload;
  readonly nodes: readonly Node[];
  /** For every job its actions. */
  readonly chains: readonly (readonly number[])[];
  readonly waits: readonly Wait[];
  /** Pairs of which the first starts no later than the second, because it is its turn. */
  readonly turns: readonly (readonly [number, number])[];
  readonly stays: readonly Stay[];
  /** For every action what comes directly before and after it, by the patch or by turn. */
  readonly preds: readonly (readonly number[])[];
  readonly succs: readonly (readonly number[])[];
}

const whole = (ms: number) => Math.round(Math.min(LATEST, ms));

/** What a workload is as a graph of actions. Actions that are done `together` become one. */
export function graphOf(problem: Workload): Graph {
  const nodes: (Node & { of: { job: number; k: number }[] })[] = [];
  const shared = new Map<string, number>();
  const chains = problem.jobs.map((job, j) =>
    job.ops.map((op, k) => {
      const known = op.together === undefined ? undefined : shared.get(op.together);
      if (known !== undefined) {
        nodes[known].of.push({ job: j, k });
        nodes[known] = { ...nodes[known], ...firstOf(job, k, problem, nodes[known]) };
        return known;
      }
      if (op.together !== undefined) shared.set(op.together, nodes.length);
      const { hands, brush, batch } = op;
      nodes.push({
        of: [{ job: j, k }],
        hands: Math.round(hands),
        brush,
        batch,
        ...firstOf(job, k, problem),
      });
      return nodes.length - 1;
    }),
  );
  const waits = new Map<string, Wait>();
  const stays = new Map<string, Stay>();
  problem.jobs.forEach((job, j) => {
    const lying = problem.lying?.[job.id];
    if (lying !== undefined) stays.set(`lying ${chains[j][0]}`, { place: lying, leaves: chains[j][0] });
    job.ops.forEach((op, k) => {
      const [before, after] = [chains[j][k], chains[j][k + 1]];
      const key = `${before} ${after}`;
      if (op.place !== undefined)
        stays.set(key, {
          place: op.place,
          enters: before,
          ...(after === undefined ? {} : { leaves: after }),
        });
      if (op.tool !== undefined) stays.set(`tool ${before}`, { place: op.tool, enters: before });
      if (after === undefined || before === after) return;
      const { gap } = op;
      waits.set(key, {
        before,
        after,
        min: Math.ceil(gap?.min ?? 0),
        ...(gap
          ? {
              aim: Math.max(Math.ceil(gap.min), whole(gap.aim)),
              max: Math.max(Math.ceil(gap.min), Math.floor(Math.min(LATEST, gap.max))),
              until: whole(Math.max(gap.aim, gap.until ?? gap.aim)),
            }
          : {}),
      });
    });
  });
  const turns = turnsOf(problem.jobs, chains);
  const preds = nodes.map((): number[] => []);
  const succs = nodes.map((): number[] => []);
  for (const [a, b] of [...[...waits.values()].map(w => [w.before, w.after] as const), ...turns]) {
    preds[b].push(a);
    succs[a].push(b);
  }
  return {
    problem,
    nodes,
    chains,
    waits: [...waits.values()],
    turns,
    stays: [...stays.values()],
    preds,
    succs,
  };
}

function firstOf(
  { first }: Job,
  k: number,
  { now }: Workload,
  known?: Node,
): Pick<Node, 'from' | 'to' | 'aim' | 'until'> {
  if (k > 0 || !first) return known ?? { from: 0, to: LATEST };
  const from = Math.max(0, Math.ceil(first.from - now), known?.from ?? 0);
  const aim = Math.max(0, whole(first.aim - now));
  return {
    from,
    to: Math.min(known?.to ?? LATEST, Math.floor(Math.min(LATEST, first.to - now))),
    aim,
    until: Math.max(aim, whole((first.until ?? first.aim) - now)),
  };
}

function turnsOf(jobs: readonly Job[], chains: readonly (readonly number[])[]): [number, number][] {
  const queues = new Map<string, Map<number, number[]>>();
  jobs.forEach(({ turn }, j) => {
    if (!turn) return;
    const queue = queues.get(turn.queue) ?? new Map<number, number[]>();
    queues.set(
      turn.queue,
      queue.set(turn.number, [...(queue.get(turn.number) ?? []), chains[j][turn.begins]]),
    );
  });
  const seen = new Set<string>();
  return [...queues.values()].flatMap(queue => {
    const groups = [...queue].sort((a, b) => a[0] - b[0]).map(([, nodes]) => nodes);
    return groups.slice(1).flatMap((later, i) =>
      groups[i].flatMap(a =>
        later.flatMap((b): [number, number][] => {
          if (a === b || seen.has(`${a} ${b}`)) return [];
          seen.add(`${a} ${b}`);
          return [[a, b]];
        }),
      ),
    );
  });
}
