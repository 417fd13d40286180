import { patchCode } from '../codes/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { progressOf } from '../progress/index.ts';
import { chanceFrom, seedOf } from '../random/index.ts';
import { canOverride, stopsFor } from '../rules/index.ts';
import type { Shelf } from '../shelf/index.ts';
import {
  type Change,
  FACTORS,
  type Factor,
  factorIn,
  type LevelValue,
  NO_LEVEL,
  planEver,
  planNow,
  sizeOf,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';
import { contextOf } from './feasible.ts';
import { boardGrid } from './grid.ts';
import { placeRuns, type Run } from './randomise.ts';
import { usedItems } from './used-items.ts';

/** What is added to a trial: combinations once more (all of them where none is named), or another level of a factor. */
export type BatchAsk =
  | { readonly what: 'again'; readonly combinations?: readonly (readonly number[])[] }
  | { readonly what: 'level'; readonly factor: number; readonly level: LevelValue };

type Batch = Extract<Change, { what: 'batch' }>;
type Combination = readonly number[];

const MOST_PATCHES = 400;
const MOST_LEVELS = 8;

/**
 * A further batch of a trial as a change of its plan: a block of its own, on boards of its own, in places and in an
 * order shuffled by itself. With a new level come the old combinations of one other level, each once, so that what the
 * batch does can be told from what the level does (Montgomery, Design and Analysis of Experiments, ch. 4: blocks share
 * treatments). Fails with a sentence where it cannot be.
 *
 * @example furtherBatch(plan, [], { what: 'again', combinations: [] }, shelf).ok; // => false
 */
export function furtherBatch(
  made: TrialPlan,
  records: readonly TrialRecord[],
  ask: BatchAsk,
  shelf: Shelf,
): Outcome<Batch> {
  const plan = planNow(made, records);
  const { stripKey, loadSize } = plan.design;
  if (stripKey || loadSize)
    return bad(
      'whole-plots',
      `This trial is made in whole ${stripKey ? 'strips' : 'loads'}, and a part of one cannot be added.`,
      'Plan it once more as a trial of its own.',
    );
  const wanted = ask.what === 'again' ? again(plan, ask.combinations) : withLevel(plan, ask, shelf);
  if (!wanted.ok) return wanted;
  const { combinations, factors, used } = wanted.value;
  if (!combinations.length) return bad('none', 'Nothing was chosen to be made again.', 'Choose a patch.');
  if (plan.patches.length + combinations.length > MOST_PATCHES)
    return bad(
      'too-many',
      `That would be more than ${MOST_PATCHES} patches.`,
      'Begin a new trial with them.',
    );

  const ever = planEver(made, records);
  const number = 1 + Math.max(0, ...ever.patches.map(p => p.batch ?? 0));
  const firstOrder = 1 + Math.max(...ever.patches.map(p => p.order));
  const { places } = boardGrid(plan.board, sizeOf(plan), plan.gutterMm, plan.marginMm);
  if (!places.length)
    return bad(
      'board-too-small',
      'More boards are needed, and the board of this trial is too small for a patch.',
      'Plan it once more with a larger board.',
    );
  const room = plan.board.onePiece ? 1 : places.length;
  const boards = Math.ceil(combinations.length / room);
  const runs = combinations.map((levels, i): Run => {
    const before = plan.patches.filter(p => p.levels.join() === levels.join()).length;
    const alike = combinations.slice(0, i).filter(c => c.join() === levels.join()).length;
    // Dealt out in turn, so that what is alike is spread over the boards.
    return { levels, repeat: before + alike, board: i % boards };
  });
  const chance = chanceFrom(seedOf(`${plan.seed} batch ${number}`));
  const group = plan.factors.findIndex(f => f.key === plan.design.groupKey);
  const placed = placeRuns(
    runs,
    { counts: (factors ?? plan.factors).map(f => f.levels.length), places: () => places },
    chance,
  );
  return good({
    what: 'batch',
    boards: plan.board.count + boards,
    ...(factors ? { factors } : {}),
    ...(used ? { used } : {}),
    patches: placed.map(run => ({
      code: patchCode(plan.code, firstOrder + run.order),
      order: firstOrder + run.order,
      board: plan.board.count + run.board,
      x: places[run.place].x,
      y: places[run.place].y,
      repeat: run.repeat,
      levels: [...run.levels],
      ...(group < 0 || run.levels[group] === NO_LEVEL ? {} : { group: run.levels[group] }),
      batch: number,
    })),
  });
}

interface Wanted {
  readonly combinations: readonly Combination[];
  readonly factors?: Factor[];
  readonly used?: Batch['used'];
}

const eachKind = (plan: TrialPlan): Combination[] => [
  ...new Map(plan.patches.filter(p => p.levels.length).map(p => [p.levels.join(), p.levels])).values(),
];

function again(plan: TrialPlan, chosen: readonly Combination[] | undefined): Outcome<Wanted> {
  const kinds = eachKind(plan);
  const foreign = chosen?.find(c => !kinds.some(k => k.join() === c.join()));
  return foreign
    ? bad('none', 'This combination is not in the trial.')
    : good({ combinations: chosen ?? kinds });
}

function withLevel(
  plan: TrialPlan,
  { factor: f, level }: Extract<BatchAsk, { what: 'level' }>,
  shelf: Shelf,
): Outcome<Wanted> {
  const factor = plan.factors[f];
  const kind = FACTORS[factor.key];
  const name = factorIn(plan, factor.key);
  if (kind.levels === 'methods')
    return bad(
      'method',
      'Another method needs its own steps and sheets.',
      'Plan it once more, with that method among those compared.',
    );
  if (factor.levels.length >= MOST_LEVELS)
    return bad('levels', `${name} has ${MOST_LEVELS} levels already, and no more can be told apart here.`);
  if (factor.levels.includes(level))
    return bad('same-level', `${name} has this level already.`, 'Choose another.');
  if (kind.levels === 'numbers' && !(Number(level) >= kind.least && Number(level) <= kind.most))
    return bad(
      'level-range',
      `${name} goes from ${kind.least} to ${kind.most}${kind.unit && ` ${kind.unit}`}.`,
    );
  const factors = plan.factors.map((x, i) => (i === f ? { ...x, levels: [...x.levels, level] } : x));
  const fresh = kind.levels === 'items' ? usedItems({ ...plan, factors } as never, shelf) : undefined;
  const used =
    fresh && kind.levels === 'items'
      ? { [kind.shelf]: fresh[kind.shelf].filter(i => i.id === level) }
      : undefined;
  if (kind.levels === 'items' && !used?.[kind.shelf]?.length)
    return bad('not-on-shelf', 'This is not on your shelf any more.', 'Choose another.');
  const now = { ...plan, factors, used: { ...plan.used, ...merged(plan.used, used) } };
  const at = factor.levels.length;
  const kinds = eachKind(plan).filter(k => k[f] !== NO_LEVEL);
  const all = [
    ...new Map(kinds.map(k => k.map((l, i) => (i === f ? at : l))).map(k => [k.join(), k])).values(),
  ];
  const request = { ...now, overrides: plan.overrides, seed: plan.seed };
  const stops = all.map(k => stopsFor(contextOf(request, now.used, k), plan.overrides));
  const possible = all.filter((_, i) => !stops[i].length);
  if (!possible.length) {
    const [rule] = stops[0];
    return bad(
      'rule',
      rule.why,
      canOverride(rule) ? `${rule.instead} Plan a new trial to see it fail.` : rule.instead,
    );
  }
  const counts = factor.levels.map((_, l) => plan.patches.filter(p => p.levels[f] === l).length);
  const known = counts.indexOf(Math.max(...counts));
  const bridge = kinds.filter(k => k[f] === known);
  const repeated = Array.from({ length: plan.repeats }, () => possible).flat();
  return good({ combinations: [...repeated, ...bridge], factors, ...(used ? { used } : {}) });
}

const merged = (used: TrialPlan['used'], more: Batch['used']): Batch['used'] =>
  Object.fromEntries(
    Object.entries(more ?? {}).map(([kind, items]) => [
      kind,
      [
        ...(used[kind as keyof NonNullable<Batch['used']>] as { id: string }[]),
        ...(items as { id: string }[]),
      ],
    ]),
  );

/** Whether hands have been at a patch: more than its mark. */
export function begunPatches(plan: TrialPlan, records: readonly TrialRecord[]): ReadonlySet<string> {
  const { lines } = progressOf(plan, records);
  return new Set(
    lines
      .filter(l => l.spoilt || l.chain.some((x, i) => x.step.does !== 'mark' && l.doneAt[i] !== undefined))
      .map(l => l.patch.code),
  );
}

/**
 * Patches left out of a trial as a change of its plan; only what nobody has begun yet can be left out.
 *
 * @example leavingOut(plan, records, plan.patches.map(p => p.code)).ok; // => false
 */
export function leavingOut(
  made: TrialPlan,
  records: readonly TrialRecord[],
  codes: readonly string[],
): Outcome<Change> {
  const plan = planNow(made, records);
  const begun = begunPatches(plan, records);
  const made1 = codes.find(code => begun.has(code));
  if (made1)
    return bad(
      'begun',
      `${made1} has been begun, and what was made stays in the trial.`,
      'Write it off at the bench instead: it then counts for what happened to it.',
    );
  if (plan.patches.length - codes.length < 2)
    return bad('too-few', 'At least two patches have to be left to compare.', 'Put the trial away instead.');
  return good({ what: 'drop', patches: [...codes] });
}

/**
 * Patches that nobody has begun yet in another order of work as a change of the plan.
 *
 * @param wanted the patches to be made first, in this order; the rest follows as before.
 *
 * @example inOrderOf(plan, records, []).ok; // => false
 */
export function inOrderOf(
  made: TrialPlan,
  records: readonly TrialRecord[],
  wanted: readonly string[],
): Outcome<Change> {
  const plan = planNow(made, records);
  const begun = begunPatches(plan, records);
  const open = [...plan.patches]
    .filter(p => !begun.has(p.code))
    .sort((a, b) => a.order - b.order)
    .map(p => p.code);
  const late = wanted.find(code => !open.includes(code));
  if (late) return bad('begun', `${late} has been begun, and its place in the order is past.`);
  const order = [...wanted, ...open.filter(code => !wanted.includes(code))];
  if (order.join() === open.join()) return bad('nothing', 'They are in this order already.');
  if (plan.design.stripKey || plan.design.groupKey || plan.design.loadSize)
    return bad(
      'whole-plots',
      'What is kept together in this trial is made together, in the order it was dealt.',
      'Let the order be free in Make, or plan the trial once more.',
    );
  return good({ what: 'order', patches: order });
}

/**
 * A moved or swapped plan as a change of the one it was made from; only what nobody has begun yet can be moved.
 *
 * @example moving(plan, plan, []).ok; // => false
 */
export function moving(
  before: TrialPlan,
  after: TrialPlan,
  records: readonly TrialRecord[],
): Outcome<Change> {
  const moved = after.patches.filter(p => {
    const was = before.patches.find(o => o.code === p.code);
    return was && (was.board !== p.board || was.x !== p.x || was.y !== p.y);
  });
  if (!moved.length) return bad('nothing', 'Nothing was moved.');
  const begun = begunPatches(before, records);
  const made = moved.find(p => begun.has(p.code));
  if (made) return bad('begun', `${made.code} has been begun and stays where it is.`);
  return good({ what: 'place', places: moved.map(({ code, board, x, y }) => ({ code, board, x, y })) });
}
