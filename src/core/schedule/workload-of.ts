import { deedOf, type Step } from '../methods/index.ts';
import type { Trialled } from '../progress/index.ts';
import {
  isLate,
  type PatchProgress,
  patchStatus,
  progressOf,
  type TrialProgress,
  windowAfter,
} from '../progress/index.ts';
import { FINISHES, isOne, MEDIUMS, PREPARATIONS, TOOLS } from '../shelf/index.ts';
import {
  goFor,
  handled,
  handsOnMin,
  isShortWait,
  type Link,
  laterIsFine,
  waitAfter,
} from '../steps/index.ts';
import type { TrialPlan, TrialRecord } from '../trial/index.ts';
import { placesOf, sittingsFrom, type Working, workingWith } from './sittings.ts';
import { type Batch, type Job, type Made, type Op, tidySpans, type Workload } from './solver/index.ts';

const MIN = 60_000;
const ms = (minutes: number) => Math.round(minutes * MIN);
const MARKING = 'marking';
/** What hands hold already when the plan begins. */
export const HELD = 'held';

/** One action of one patch, as the scheduler names it. */
export interface Task {
  /** The trial's id. */
  readonly trial: string;
  readonly patch: string;
  readonly link: Link;
}

/** The work of trials as a question for the scheduler, with what its jobs and actions stand for. */
export interface TrialWorkload {
  readonly problem: Workload;
  /** For every job its actions; the marking of all pieces has one for each. */
  readonly tasks: ReadonlyMap<string, readonly Task[]>;
  /** Patches whose window closed already. */
  readonly late: readonly string[];
}

/** When an action would end, ms, as far as it is known: what its wait dries in depends on it where other air is expected. */
export type EndsAt = (trial: string, patch: string, link: Link) => number | undefined;

/** How the work is looked at. */
export interface Looked {
  /** The maker is there until then (ms), whatever their sittings say. */
  readonly hereUntil?: number;
  readonly endsAt?: EndsAt;
}

/** A trial with its records folded. */
type Folded = Trialled & { readonly progress: TrialProgress };
const folded = (trials: readonly Trialled[]): Folded[] =>
  trials.map(t => ({ ...t, progress: progressOf(t.plan, t.records) }));

/** What is still to be done of several trials, for the same hands; see {@link workloadOf}. An oven holds the smallest load of any. */
export function workloadOfAll(
  asked: readonly Trialled[],
  working: Working,
  now: number,
  looked: Looked = {},
): TrialWorkload {
  const trials = folded(asked);
  const [first, ...rest] = trials.map(t => workOf(t, working, now, looked));
  if (!first) return workloadOfNone(working, now);
  const done = trials.flatMap(doneOf);
  const brush = brushThen(done, now);
  const made = batchesIn(done, now);
  const merged = rest.reduce(
    (all, one) => ({
      problem: {
        ...all.problem,
        jobs: [...all.problem.jobs, ...one.problem.jobs],
        places: {
          ...all.problem.places,
          oven: Math.min(all.problem.places.oven, one.problem.places.oven),
        },
        lying: { ...all.problem.lying, ...one.problem.lying },
      },
      tasks: new Map([...all.tasks, ...one.tasks]),
      late: [...all.late, ...one.late],
    }),
    first,
  );
  const [you, ...helpers] = merged.problem.hands;
  return {
    ...merged,
    problem: { ...merged.problem, hands: [{ ...you, ...(brush ? { brush } : {}) }, ...helpers], made },
  };
}

/** After so long without it a brush was washed: it would be stiff otherwise. */
const WASHED_BY_NOW = 45 * MIN;

/** Every action that was done, with its time, its step and its patch's line. */
const doneOf = ({ progress }: Folded) =>
  progress.lines.flatMap(line =>
    line.chain.flatMap((link, i) => {
      const at = line.doneAt[i];
      return at === undefined ? [] : [{ at, step: link.step, line }];
    }),
  );

type Done = ReturnType<typeof doneOf>;

/** What the brush was in last, where that is not long ago. */
export const lastBrush = (trials: readonly Trialled[], now: number): string | undefined =>
  brushThen(folded(trials).flatMap(doneOf), now);

function brushThen(done: Done, now: number): string | undefined {
  const uses = done.flatMap(d => {
    const brush = brushOf(d.step, d.line);
    return brush && now - d.at < WASHED_BY_NOW ? [{ at: d.at, brush }] : [];
  });
  return uses.sort((a, b) => b.at - a.at)[0]?.brush;
}

/** Batches that can still be used: made at the first use of a row of them. */
export const batchesLeft = (trials: readonly Trialled[], now: number): Made[] =>
  batchesIn(folded(trials).flatMap(doneOf), now);

function batchesIn(done: Done, now: number): Made[] {
  const left = new Map<string, Made>();
  for (const { at, step, line } of [...done].sort((a, b) => a.at - b.at)) {
    const batch = batchOf(step, line);
    if (!batch) continue;
    const last = left.get(batch.key);
    const goesOn = last && at <= last.until && last.used < batch.serves;
    left.set(
      batch.key,
      goesOn ? { ...last, used: last.used + 1 } : { batch, ready: at, until: at + batch.lasts, used: 1 },
    );
  }
  return [...left.values()].filter(m => m.until > now && m.used < m.batch.serves);
}

const workloadOfNone = (working: Working, now: number): TrialWorkload => ({
  problem: { jobs: [], hands: [], now, places: {}, wash: ms(workingWith(working, []).washMin) },
  tasks: new Map(),
  late: [],
});

/**
 * What is still to be done of a trial from `now` (ms) on: a job for every patch that is not finished or spoilt, its
 * windows from what really happened. Marking comes before everything. A patch whose window closed may come at any
 * time and has its best moment now.
 *
 * @example workloadOf(plan, [], { sittings: [], helpers: 0, ovenHolds: null, rackHolds: null, trayHolds: null, washMin: null, order: 'plan' }, start).late; // => []
 */
export const workloadOf = (
  plan: TrialPlan,
  records: readonly TrialRecord[],
  working: Working,
  now: number,
  looked: Looked = {},
): TrialWorkload => workOf(folded([{ plan, records }])[0], working, now, looked);

function workOf({ plan, progress }: Folded, working: Working, now: number, looked: Looked): TrialWorkload {
  const { hereUntil } = looked;
  const tasks = new Map<string, Task[]>();
  const lying: Record<string, string> = {};
  const late: string[] = [];
  const jobs: Job[] = [];
  const unmarked: Task[] = [];
  const trial = plan.id;
  const queue = `work ${trial}`;
  const number = (line: PatchProgress) =>
    working.order === 'plan'
      ? line.patch.order
      : line.patch.board * 1000 + (plan.board.onePiece ? -line.patch.board * 1000 : 0);
  for (const line of progress.lines) {
    const status = patchStatus(line, progress.airs, now);
    if (!status.next) continue;
    const links = line.chain.filter((_, i) => line.doneAt[i] === undefined);
    const marks = links.filter(l => l.step.does === 'mark');
    unmarked.push(...marks.map(link => ({ trial, patch: line.patch.code, link })));
    const rest = links.filter(l => l.step.does !== 'mark');
    if (!rest.length) continue;
    const patch = line.patch.code;
    const id = `${trial} ${patch}`;
    tasks.set(
      id,
      rest.map(link => ({ trial, patch, link })),
    );
    const begun = line.chain.some((l, i) => l.step.does !== 'mark' && line.doneAt[i] !== undefined);
    const w = status.window;
    const isClosed = w !== undefined && now > w.closes;
    if (isLate(status, now)) late.push(patch);
    const place = status.last && placeOf(status.last.step, line, plan, working);
    if (place && begun) lying[id] = place;
    const ops = rest.map(link => opOf(link, line, progress, plan, working, looked.endsAt));
    // What hands hold at this moment they hold until its best moment.
    const held = w && begun && status.last?.step.holds && now < w.aim ? w.aim - now : 0;
    if (held)
      ops.unshift({ id: HELD, hands: held, gap: { min: 0, aim: 0, max: Math.max(0, w!.closes - w!.aim) } });
    jobs.push({
      id,
      ops,
      ...(w && begun
        ? {
            first: held
              ? { from: now, aim: now, to: now }
              : isClosed
                ? { from: now, aim: now, to: Number.MAX_SAFE_INTEGER }
                : {
                    from: w.opens,
                    aim: w.aim,
                    to: w.closes,
                    ...(status.patient ? { until: w.closes } : {}),
                  },
          }
        : {}),
      ...(begun ? {} : { turn: { queue, number: number(line), begins: 0 } }),
    });
  }
  if (unmarked.length) {
    tasks.set(`${trial} ${MARKING}`, unmarked);
    const hands = unmarked.reduce((sum, t) => sum + ms(t.link.step.handsOnMin), 0);
    jobs.unshift({
      id: `${trial} ${MARKING}`,
      ops: [{ id: 'mark', hands }],
      turn: { queue, number: -1, begins: 0 },
    });
  }
  const sittings = sittingsFrom(working.sittings, now);
  const { washMin, ovenHolds } = workingWith(working, []);
  const there = hereUntil === undefined ? sittings : tidySpans([...sittings, [now, hereUntil]]);
  return {
    problem: {
      jobs,
      hands: Array.from({ length: 1 + working.helpers }, (_, i) => ({
        name: i ? `helper ${i}` : 'you',
        there,
      })),
      now,
      places: {
        oven: plan.design.loadSize ?? ovenHolds,
        [PLATE]: 1,
        ...oneOfEach(progress.lines),
        ...placesOf(working),
      },
      wash: ms(washMin),
      lying,
    },
    tasks,
    late,
  };
}

function opOf(
  link: Link,
  line: PatchProgress,
  progress: TrialProgress,
  plan: TrialPlan,
  working: Working,
  endsAt?: EndsAt,
): Op {
  const { step } = link;
  const many = goOf(line, link, progress);
  const { hands, wait } = handled(
    step,
    handsOnMin(step, line) * Math.max(1, many.length),
    waitIn(link, line, progress, endsAt?.(plan.id, line.patch.code, link)),
  );
  const tool = toolOf(step, line);
  const brush = brushOf(step, line);
  const place = placeOf(step, line, plan, working);
  const batch = batchOf(step, line);
  return {
    id: step.id,
    hands: ms(hands),
    ...(wait
      ? {
          gap: {
            min: ms(wait.min),
            aim: ms(wait.aim),
            max: ms(wait.max),
            ...(laterIsFine(step, line.settings) ? { until: ms(wait.max) } : {}),
          },
        }
      : {}),
    ...(brush ? { brush } : {}),
    ...(place ? { place } : {}),
    ...(batch ? { batch } : {}),
    ...(tool ? { tool } : {}),
    ...(many.length > 1 ? { together: `${plan.id} ${step.id} ${link.round} ${goFor(step, line)[0]}` } : {}),
  };
}

/** The wait after a link, minutes: in the air that was noted last, or from a moment (ms) on in the air of each hour. */
function waitIn(link: Link, line: PatchProgress, { air, airs }: TrialProgress, from: number | undefined) {
  if (from === undefined) return waitAfter(link.step, line.settings, air, line.plannedMin);
  const window = windowAfter(line, link, from, airs);
  const minutes = (at: number) => (at - from) / MIN;
  return window && { min: minutes(window.opens), aim: minutes(window.aim), max: minutes(window.closes) };
}

/** The patches that a step is still to be done for in the same go as for one, itself among them. */
function goOf(line: PatchProgress, { step, round }: Link, { lines }: TrialProgress): string[] {
  const go = new Set(goFor(step, line));
  return lines
    .filter(
      l =>
        go.has(l.patch.code) &&
        !l.spoilt &&
        l.chain.some((x, i) => x.step.id === step.id && x.round === round && l.doneAt[i] === undefined),
    )
    .map(l => l.patch.code);
}

/** The gel plate that one paints and prints on. */
export const PLATE = 'gel plate';

/** The hot tool a step presses with: one maker has one of it, named on the patch or not. */
export function toolOf(step: Step, { settings }: PatchProgress): string | undefined {
  if (!deedOf(step.does).presses) return undefined;
  const { pressing } = settings;
  if (pressing && isOne(TOOLS.heaters, pressing.kind)) return pressing.id;
  return step.holds && step.cautions.includes('hot-tools') ? 'hot tool' : undefined;
}

const oneOfEach = (lines: readonly PatchProgress[]): Record<string, number> =>
  Object.fromEntries(
    lines.flatMap(line => line.chain.flatMap(({ step }) => toolOf(step, line) ?? [])).map(tool => [tool, 1]),
  );

/** What a brush is dipped into at a step. */
export function brushOf(step: Step, { settings }: PatchProgress): string | undefined {
  if (step.onlyIfPrepared)
    return isOne(PREPARATIONS.brushedOn, settings.preparation.kind)
      ? `preparation ${settings.preparation.id}`
      : undefined;
  if (step.onlyIfFinished)
    return settings.finish && isOne(FINISHES.brushedOn, settings.finish.kind)
      ? `finish ${settings.finish.id}`
      : undefined;
  return deedOf(step.does).brushes && !isOne(MEDIUMS.unbrushed, settings.medium.kind)
    ? settings.medium.id
    : undefined;
}

/** Whether the plate is in use after a step: from the paint on it until the substrate has been pressed on. */
function isOnPlate(step: Step, { chain }: PatchProgress): boolean {
  const offset = chain.findIndex(l => l.step.does === 'offset');
  if (offset < 0) return false;
  const at = chain.findIndex(l => l.step.id === step.id);
  const coat = chain.findIndex(l => l.step.does === 'coat');
  const pressed = chain.findIndex((l, i) => i > offset && l.step.does === 'place');
  return at >= coat && at < pressed;
}

/** What a piece lies in after a step until the next one. */
export function placeOf(
  step: Step,
  line: PatchProgress,
  plan: TrialPlan,
  working: Working,
): string | undefined {
  const { puts } = deedOf(step.does);
  if (puts === 'tray') {
    // What is only dipped does not lie there.
    const { wait } = step;
    const lies = wait.kind === 'planned' || (wait.kind === 'fixed' && !wait.dries);
    return working.trayHolds !== null && lies ? puts : undefined;
  }
  if (puts) return puts;
  if (isOnPlate(step, line)) return PLATE;
  if (working.rackHolds === null || !plan.board.onePiece) return undefined;
  const wait = waitAfter(step, line.settings, plan.air);
  return wait && !isShortWait(wait.aim) ? 'rack' : undefined;
}

const MIXING = 3 * MIN;
/** How long a mixed two-part clear pours well; the shelf does not say it of a finish. */
const POURS = 20 * MIN;

/** What has two parts is mixed for as many patches as can be coated while it lasts. */
export function batchOf(step: Step, { settings }: PatchProgress): Batch | undefined {
  const { medium, finish } = settings;
  if (step.onlyIfFinished && finish?.twoPart)
    return { key: `finish ${finish.id}`, make: MIXING, lasts: POURS, serves: 12 };
  if (!deedOf(step.does).mixes || !isOne(MEDIUMS.twoPart, medium.kind)) return undefined;
  return { key: medium.id, make: MIXING, lasts: ms(medium.openMin), serves: 12 };
}
