import { examplePlan } from '../src/core/design/example.ts';
import { planOf } from '../src/core/questions/example.ts';
import { SITTINGS, USUAL_WORKING, type Working, workloadOfAll } from '../src/core/schedule/index.ts';
import { fromNow, graphOf, type Workload } from '../src/core/schedule/solver/index.ts';
import type { TrialPlan } from '../src/core/trial/index.ts';

/** A Saturday morning by the clock of the place. */
const START = new Date(2026, 4, 2, 9, 0).getTime();
const EVENINGS: Partial<Working> = { sittings: SITTINGS.find(s => s.id === 'evenings')!.sittings };
const FREE: Partial<Working> = { order: 'free' };

/** Patches of three mediums and two waits, so many times. */
export const ladderOf = (repeats: number, seed = 1): TrialPlan =>
  examplePlan(
    {
      repeats,
      usual: { ...examplePlan().usual, rounds: 1 },
      board: { w: 480, h: 400, outline: 'rectangle', onePiece: false },
    },
    seed,
  );

interface Instance {
  readonly name: string;
  readonly problem: Workload;
}

const instance = (name: string, plans: readonly TrialPlan[], part: Partial<Working> = {}): Instance => ({
  name,
  problem: workloadOfAll(
    plans.map(plan => ({ plan, records: [] })),
    { ...USUAL_WORKING, ...part },
    START,
  ).problem,
});

/** Days of work as the planner makes them: methods with short and long waits, in order and free, in the evenings, two trials at once. */
export function instances(): Instance[] {
  const of = (id: string, part?: Partial<Working>, how = '') => instance(`${id}${how}`, [planOf(id)], part);
  return [
    ...['wet-rub', 'paint-bed', 'wax-bed', 'tape-lift', 'ironed-tape', 'backing-print', 'film-pull'].map(id =>
      of(id),
    ),
    ...['hot-body', 'gel-skin', 'gel-plate', 'carbon-trace', 'quick-release'].map(id => of(id)),
    ...['wet-rub', 'dissolving-paper', 'carbon-trace', 'paint-bed'].map(id => of(id, EVENINGS, ', evenings')),
    ...['tape-lift', 'film-pull', 'carbon-trace'].map(id => of(id, FREE, ', free order')),
    instance('wet-rub and wax-bed', [planOf('wet-rub', 0.2), planOf('wax-bed', 0.7)]),
    instance('ladder of 24', [ladderOf(4)]),
    instance('ladder of 48', [ladderOf(8)]),
  ];
}

/** An instance in seconds for a solver of another kind (docs/reference/schedule_best.py), with our own schedule as a hint. */
export function asData({ name, problem }: Instance, starts: readonly (readonly number[])[]) {
  const graph = graphOf(problem);
  const s = (ms: number | undefined) => (ms === undefined ? null : ms / 1000);
  return {
    name,
    nodes: graph.nodes.map(n => ({
      p: s(n.hands),
      from: s(n.from),
      to: s(n.to),
      aim: s(n.aim),
      until: s(n.until),
      brush: n.brush ?? null,
    })),
    waits: graph.waits.map(w => ({
      b: w.before,
      a: w.after,
      min: s(w.min),
      aim: s(w.aim),
      until: s(w.until),
      max: s(w.max),
    })),
    turns: graph.turns,
    stays: graph.stays,
    places: problem.places,
    wash: s(problem.wash),
    there: fromNow(problem.hands[0].there, problem.now)
      .slice(0, 60)
      .map(span => span.map(s)),
    hint: graph.nodes.map(n => s(starts[n.of[0].job][n.of[0].k] - problem.now)),
  };
}
