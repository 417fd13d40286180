import * as v from 'valibot';
import { freshId, patchCode, trialCode } from '../codes/index.ts';
import type { Method } from '../methods/index.ts';
import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import { type Chance, chanceFrom } from '../random/index.ts';
import { canOverride, type Rule } from '../rules/index.ts';
import { many, mm, say, sized, type Words } from '../say/index.ts';
import type { Shelf } from '../shelf/index.ts';
import {
  type Carrier,
  levelName,
  methodsOf,
  namesOf,
  SCHEMA_VERSION,
  settingsOf,
  sizeOf,
  type TrialPlan,
  TrialPlan as TrialPlanSchema,
} from '../trial/index.ts';
import { dealToBoards } from './boards.ts';
import { checkRequest } from './check-request.ts';
import { bestFraction } from './exchange.ts';
import { type Feasible, feasibleOf } from './feasible.ts';
import { type BoardGrid, boardGrid, type Place, smallestBoard } from './grid.ts';
import { dealToLoads } from './loads.ts';
import { dEfficiency, effectCount } from './model.ts';
import { type PlacedRun, placeRuns, type Run } from './randomise.ts';
import { MOST_SIDE_MM, type PlanRequest } from './request.ts';
import { layStrips } from './strips.ts';

const MOST_PATCHES = 400;
const MOST_BOARDS = 40;
const RESTARTS = 20;

export interface Identity {
  readonly createdAt: string;
  readonly random: () => number;
}

/**
 * Lays out a trial: chooses the runs (every feasible combination × repeats, the D-optimal fraction for a budget, a
 * ladder, or strips), deals them to as few boards as hold them, and randomises places and order from the seed.
 * The same request, seed, time and identity give the same plan. Fails with a sentence and a way out for whatever
 * cannot be planned. A fraction of many factors takes seconds; `tell` hears how far it is.
 *
 * @example planTrial({ ...plan, name: '' }, shelf, { createdAt: plan.createdAt, random: () => 0.5 }).ok; // => false
 */
export function planTrial(
  request: PlanRequest,
  shelf: Shelf,
  identity: Identity,
  ownMethods: readonly Method[] = [],
  tell: Progress = () => {},
): Outcome<TrialPlan> {
  const checked = checkRequest(request, shelf, ownMethods);
  if (!checked.ok) return checked;
  const { ask, used } = checked.value;
  const feasible = feasibleOf(ask, used);
  const stopped = allStopped(ask, feasible, namesOf({ used }));
  if (stopped) return stopped;
  const chance = chanceFrom(ask.seed);
  const around = methodsOf({ used }).map(m => m.aroundMm);
  const gutterMm = Math.max(ask.gutterMm, ...around);
  const marginMm = Math.max(ask.marginMm, ...around);
  const gridOf = (carrier: Carrier) => boardGrid(carrier, sizeOf(ask), gutterMm, marginMm);
  const grid = gridOf(ask.board);
  const own = (ask.pieces ?? []).map(gridOf);
  const full = own.findIndex(g => !g.places.length);
  if (full >= 0) {
    const { name, taken } = ask.pieces![full];
    return bad(
      'piece-too-small',
      taken?.length
        ? `“${name}” has no room left for a patch.`
        : say`“${name}” is too small for a patch of ${sized(sizeOf(ask))}.`,
      'Take it out, or make it larger.',
    );
  }
  const places = (board: number) => (own[board] ?? grid).places;
  const frame = { ask, grid, places, gutterMm, marginMm, chance, tell };
  const laid = ask.design === 'strips' ? layOutStrips(frame, feasible) : layOut(frame, feasible);
  if (!laid.ok) return laid;
  const { runs, boards } = laid.value;
  const code = trialCode(chanceFrom(Math.floor(identity.random() * 2 ** 31)));
  const real = runs.filter(r => r.levels.length).map(r => r.levels);
  const counts = ask.factors.map(f => f.levels.length);
  const efficiency = dEfficiency(real, counts, ask.interactions);
  if (!efficiency)
    return bad(
      'rank',
      'What the rules leave cannot tell all these things apart: some only ever change together.',
      'Leave one of them out, or take levels that go with every other.',
    );
  const { control, interactions, stripKey, groupKey, loadSize, budget: _, design, ...asked } = ask;
  const { compared, ...alone } = asked;
  const rest = used.otherMethods?.length ? asked : alone;
  const plan = {
    ...rest,
    gutterMm,
    marginMm,
    schema: SCHEMA_VERSION,
    id: freshId(identity.random),
    code,
    createdAt: identity.createdAt,
    board: { ...ask.board, count: boards },
    design: {
      kind: design,
      interactions,
      stripKey: design === 'strips' ? stripKey : null,
      groupKey,
      loadSize: design === 'strips' ? null : loadSize,
      control,
      efficiency,
      leftOut: feasible.leftOut,
    },
    used,
    patches: runs.map(run => ({
      code: patchCode(code, run.order),
      order: run.order,
      board: run.board,
      x: places(run.board)[run.place].x,
      y: places(run.board)[run.place].y,
      repeat: run.repeat,
      levels: [...run.levels],
      ...(run.strip === undefined ? {} : { strip: run.strip }),
      ...(run.group === undefined ? {} : { group: run.group }),
    })),
  };
  const whole = v.safeParse(TrialPlanSchema, plan);
  if (!whole.success) return bad('plan', `The plan does not hold together: ${whole.issues[0].message}`);
  return tooFewLeft(whole.output) ?? good(whole.output);
}

/** More patches than there are pieces of what was left over. */
function tooFewLeft(plan: TrialPlan): Outcome<never> | undefined {
  for (const donor of plan.used.donors.filter(d => d.leftOf)) {
    const needed = plan.patches.filter(p => settingsOf(plan, p).donor.id === donor.id).length;
    if (needed > donor.onHand)
      return bad(
        'left-over',
        `There are ${donor.onHand} pieces of “${donor.name}”, and the plan needs ${needed}.`,
        'Take fewer patches, or a sheet that is printed.',
      );
  }
  return undefined;
}

/** No combination is left, or one level is in none of those that are left. */
function allStopped(
  ask: PlanRequest,
  feasible: Feasible,
  names: Parameters<typeof levelName>[0],
): Outcome<never> | undefined {
  const tell = (rule: Rule | undefined, start: Words) =>
    bad(
      'rule',
      say`${start}${rule?.why ?? ''}`,
      rule && canOverride(rule)
        ? `${rule.instead} You can also say that you want to see it fail.`
        : rule?.instead,
      rule ? { rule: rule.id } : {},
    );
  if (!feasible.runs.length) return tell(feasible.firstStop, '');
  for (const [f, factor] of ask.factors.entries())
    for (const [l, level] of factor.levels.entries())
      if (!feasible.runs.some(r => r[f] === l))
        return tell(
          feasible.stopOf(f, l),
          say`${levelName(names, factor.key, level)} cannot be tried here. `,
        );
  return undefined;
}

interface Frame {
  readonly ask: PlanRequest;
  /** Places on the boards that are alike. */
  readonly grid: BoardGrid;
  /** Places on each board, the pieces of their own first. */
  readonly places: (board: number) => readonly Place[];
  readonly gutterMm: number;
  readonly marginMm: number;
  readonly chance: Chance;
  readonly tell: Progress;
}

type Laid = { readonly runs: readonly PlacedRun[]; readonly boards: number };

function layOut(frame: Frame, feasible: Feasible): Outcome<Laid> {
  const { ask, chance } = frame;
  const chosen = ask.design === 'best fraction' ? fraction(frame, feasible) : everyCombination(ask, feasible);
  if (!chosen.ok) return chosen;
  const runs = chosen.value;
  if (runs.length < 2) return bad('one', 'Only one patch is left, and it has nothing to be compared with.');
  const shared = sizesOf(frame, runs.length);
  if (!shared.ok) return shared;
  const sizes = shared.value;
  const boards = sizes.length;
  const dealt = dealRuns(frame, runs, sizes);
  const grouped = ask.factors.findIndex(f => f.key === ask.groupKey);
  const all: Run[] = runs.map((run, i) => ({
    ...run,
    board: dealt[i],
    ...(grouped < 0 ? {} : { group: run.levels[grouped] }),
  }));
  if (ask.control) all.push(...controls(ask, boards));
  const counts = ask.factors.map(f => f.levels.length);
  const loaded = inLoads(frame, all, counts, grouped);
  const placed = placeRuns(loaded, { counts, places: frame.places, loads: loaded !== all }, chance);
  return good({ runs: placed, boards: 1 + Math.max(...placed.map(r => r.board)) });
}

/**
 * How many runs each board gets: pieces of their own come first and are filled by what room they have, the boards
 * that are needed for the rest evenly.
 */
function sizesOf(frame: Frame, count: number): Outcome<number[]> {
  const { ask, grid, places } = frame;
  const spare = ask.control && !ask.board.onePiece ? 1 : 0;
  const pieces = (ask.pieces ?? []).map((_, i) => Math.max(0, places(i).length - spare));
  if (pieces.length > count)
    return bad('pieces', `There are ${pieces.length} pieces for ${count} patches.`, 'Take a piece out.');
  const onPieces = Math.min(
    count,
    pieces.reduce((a, b) => a + b, 0),
  );
  const room = grid.places.length - spare;
  const small = onPieces < count && tooSmall(frame, count - onPieces, room);
  if (small) return small;
  const boards = onPieces < count ? Math.ceil((count - onPieces) / room) : 0;
  return good([...byRoom(onPieces, pieces), ...byRoom(count - onPieces, new Array<number>(boards).fill(1))]);
}

/** A count shared out by weights, the largest remainders first; each gets at least one where there are enough. */
function byRoom(count: number, weights: readonly number[]): number[] {
  const all = weights.reduce((a, b) => a + b, 0) || 1;
  const exact = weights.map(w => (count * w) / all);
  const sizes = exact.map(e => Math.floor(e + 1e-9));
  const left = count - sizes.reduce((a, b) => a + b, 0);
  const first = exact
    .map((e, i) => ({ i, part: sizes[i] ? e - sizes[i] : 2 }))
    .sort((a, b) => b.part - a.part || a.i - b.i);
  for (const { i } of first.slice(0, left)) sizes[i]++;
  return sizes;
}

/** Loads where a load has a size, and where single pieces are to be made together; else the runs themselves. */
function inLoads({ ask, chance }: Frame, runs: Run[], counts: readonly number[], grouped: number): Run[] {
  const { onePiece } = ask.board;
  if (!ask.loadSize && !(onePiece && grouped >= 0)) return runs;
  const most = ask.loadSize ?? Number.POSITIVE_INFINITY;
  return dealToLoads(runs, { most, grouped, onePiece, counts, pairs: ask.interactions }, chance);
}

/** One control a board; on pieces that carry a single patch a piece of its own for every eight. */
function controls(ask: PlanRequest, boards: number): Run[] {
  if (!ask.board.onePiece)
    return Array.from({ length: boards }, (_, board) => ({ levels: [], repeat: 0, board }));
  return Array.from({ length: boards }, (_, i) => ({ levels: [], repeat: 0, board: boards + i })).slice(
    0,
    Math.max(1, Math.round(boards / 8)),
  );
}

function dealRuns(
  { ask, chance }: Frame,
  runs: readonly Omit<Run, 'board'>[],
  sizes: readonly number[],
): number[] {
  if (ask.board.onePiece || sizes.length === 1) {
    const order = chance.shuffle(runs.map((_, i) => i)).sort((a, b) => runs[a].repeat - runs[b].repeat);
    const slots = sizes.flatMap((size, board) => new Array<number>(size).fill(board));
    const out = new Array<number>(runs.length);
    order.forEach((run, i) => {
      out[run] = slots[i];
    });
    return out;
  }
  const perRepeat = runs.length / ask.repeats;
  const alike = sizes.length === ask.repeats && sizes.every(size => size === perRepeat);
  if (alike && ask.design !== 'best fraction') return runs.map(r => r.repeat);
  const counts = ask.factors.map(f => f.levels.length);
  return dealToBoards(
    runs.map(r => r.levels),
    sizes,
    counts,
    ask.interactions,
    chance,
  );
}

function everyCombination(ask: PlanRequest, feasible: Feasible): Outcome<Omit<Run, 'board'>[]> {
  const wanted = feasible.total * ask.repeats;
  if (wanted > MOST_PATCHES)
    return bad(
      'too-many',
      `That makes ${wanted} patches; ${MOST_PATCHES} is the most.`,
      'Take fewer levels or repeats, or let the planner choose the best part of them.',
    );
  return good(
    Array.from({ length: ask.repeats }, (_, repeat) =>
      feasible.runs.map(levels => ({ levels, repeat })),
    ).flat(),
  );
}

function fraction({ ask, chance, tell }: Frame, feasible: Feasible): Outcome<Omit<Run, 'board'>[]> {
  const counts = ask.factors.map(f => f.levels.length);
  const effects = effectCount(counts, ask.interactions);
  if (ask.budget < effects)
    return bad(
      'budget',
      `Telling these effects apart takes at least ${effects} patches; you can afford ${ask.budget}.`,
      'Allow more patches, or take fewer levels, factors or interactions.',
    );
  const found = bestFraction(
    { counts, pairs: ask.interactions, runs: ask.budget, candidates: feasible.runs, restarts: RESTARTS },
    chance,
    tell,
  );
  if (!found.efficiency)
    return bad(
      'rank',
      'The combinations that are possible cannot tell all these effects apart.',
      'Take fewer interactions, or allow what the rules left out.',
    );
  const seen = new Map<string, number>();
  return good(
    found.runs.map(levels => {
      const key = levels.join();
      const repeat = seen.get(key) ?? 0;
      seen.set(key, repeat + 1);
      return { levels, repeat };
    }),
  );
}

function layOutStrips(frame: Frame, feasible: Feasible): Outcome<Laid> {
  const { ask, grid, chance } = frame;
  const f = ask.factors.findIndex(factor => factor.key === ask.stripKey);
  if (f < 0)
    return bad(
      'strips',
      'Choose what is given to whole strips of the board.',
      'It has to be one of the things you vary.',
    );
  if (ask.board.onePiece)
    return bad('strips', 'Single pieces have no strips.', 'Use a board, or another design.');
  if (ask.pieces?.length)
    return bad('strips', 'Strips need boards that are all alike.', 'Take the pieces of their own out.');
  if (ask.repeats < 2)
    return bad(
      'strips',
      'Every kind of strip is needed at least twice.',
      'With one of each nobody can tell the strip from its place: set the repeats to 2.',
    );
  const laid = layStrips({ ...frame, factor: f, feasible: feasible.runs });
  if (!laid.ok) return laid;
  if (laid.value.boards > MOST_BOARDS)
    return bad('board-too-small', `That takes ${laid.value.boards} boards.`, 'Take a larger board.');
  const counts = ask.factors.map(x => x.levels.length);
  const placed = placeRuns(
    laid.value.runs,
    { counts, places: () => grid.places, stripPlaces: laid.value.stripPlaces },
    chance,
  );
  return good({ runs: placed, boards: laid.value.boards });
}

function tooSmall(
  { ask, gutterMm, marginMm }: Frame,
  count: number,
  room: number,
): Outcome<never> | undefined {
  const most = ask.board.onePiece ? MOST_PATCHES : MOST_BOARDS;
  if (room > 0 && Math.ceil(count / room) <= most) return undefined;
  const held = ask.board.onePiece ? 1 : count;
  const { outline, corners } = ask.board;
  const needed = smallestBoard(held, sizeOf(ask), gutterMm, marginMm, outline, corners);
  const what = ask.board.onePiece ? 'A piece' : ask.board.outline === 'ellipse' ? 'An oval board' : 'A board';
  const isUsual = Math.max(needed.w, needed.h) <= MOST_SIDE_MM;
  return bad(
    'board-too-small',
    say`${what} of ${mm(ask.board.w, { by: ask.board.h })} is too small for ${ask.board.onePiece ? 'a patch' : many(count, 'patch')} of ${sized(sizeOf(ask))}.`,
    say`${mm(needed.w, { by: needed.h })} would hold ${ask.board.onePiece ? 'one' : 'them all'}.`,
    isUsual ? { board: needed } : {},
  );
}
