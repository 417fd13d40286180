import { freshId, trialCode } from '../codes/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import { within } from '../say/index.ts';
import {
  type Carrier,
  carrierName,
  carrierOf,
  chosenOf,
  type Factor,
  factorIn,
  type LevelValue,
  likeBoards,
  MOST_PIECES,
  type Patch,
  type Piece,
  planNow,
  SETTING_KEYS,
  sizeOf,
  TARGET,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';
import { dEfficiency } from './model.ts';
import type { Identity } from './plan.ts';

/** A trial with all that happened to it. */
export interface WholeTrial {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
}

const MOST_FACTORS = 8;
const MOST_LEVELS = 8;
const MOST_PATCHES = 400;

/**
 * Two trials of one question as one: the patches of the older, then those of the younger as a batch of its own, each
 * with its code, its board and its records. What differs between them is a factor of the whole, also where each had but
 * one level of it. The two trials stay as they are. Fails with a sentence where they cannot be one: other methods,
 * patches of another size, whole plots, or more than a trial can hold.
 *
 * @example mergeTrials({ plan, records }, { plan, records }, { createdAt: plan.createdAt, random: () => 0.5 }).ok; // => false
 */
export function mergeTrials(one: WholeTrial, other: WholeTrial, identity: Identity): Outcome<WholeTrial> {
  if (one.plan.id === other.plan.id)
    return bad('same-trial', 'A trial cannot be put together with itself.', 'Choose another.');
  const [first, second] = [one, other].sort((x, y) => x.plan.createdAt.localeCompare(y.plan.createdAt));
  const [a, b] = [first, second].map(t => planNow(t.plan, t.records));
  const apart = cannotBeOne(a, b);
  if (apart) return apart;

  const factors = factorsOfBoth(a, b);
  if (!factors.length)
    return bad('no-factor', 'Nothing differs between their patches, so nothing can be compared.');
  if (factors.length > MOST_FACTORS)
    return bad('factors', `Together they vary ${factors.length} things; ${MOST_FACTORS} is the most.`);
  const names = { factors, used: { ...a.used, ...itemsOfBoth(a, b) } };
  const crowded = factors.find(f => f.levels.length > MOST_LEVELS);
  if (crowded)
    return bad(
      'levels',
      `Together they have ${crowded.levels.length} levels of ${within(factorIn(names, crowded.key))}; ${MOST_LEVELS} is the most.`,
    );
  const carried = carriersOfBoth(a, b);
  if (!carried.ok) return carried;

  const batches = 1 + Math.max(0, ...a.patches.map(p => p.batch ?? 0));
  const after = 1 + Math.max(...a.patches.map(p => p.order));
  const seen = new Map<string, number>();
  const taken =
    (plan: TrialPlan, which: 0 | 1) =>
    (patch: Patch): Patch => {
      const chosen = valuesOf(plan, patch.levels);
      const levels = factors.map(f => f.levels.indexOf(chosen(f.key)));
      const repeat = seen.get(levels.join()) ?? 0;
      seen.set(levels.join(), repeat + 1);
      const { group: _, strip: __, ...rest } = patch;
      return {
        ...rest,
        levels,
        repeat,
        board: carried.value.of(which, patch.board),
        ...(which ? { order: after + patch.order, batch: batches + (patch.batch ?? 0) } : {}),
      };
    };
  const patches = [...a.patches.map(taken(a, 0)), ...b.patches.map(taken(b, 1))];
  if (patches.length > MOST_PATCHES)
    return bad('too-many', `Together they have ${patches.length} patches; ${MOST_PATCHES} is the most.`);

  const pictures = [...new Map([...(a.pictures ?? []), ...(b.pictures ?? [])].map(p => [p.id, p])).values()];
  const { patchTallMm: _, pictures: __, picture: ___, pieces: ____, tags: _____, ...base } = a;
  const picture = valuesOf(a, a.patches[0].levels)('picture');
  const counts = factors.map(f => f.levels.length);
  // What is the same for all of them is usual, whatever was so when the older was planned.
  const value = valuesOf(a, a.patches[0].levels);
  const fixed = SETTING_KEYS.filter(key => !factors.some(f => f.key === key));
  const plan: TrialPlan = {
    ...base,
    ...(a.patchTallMm === undefined ? {} : { patchTallMm: a.patchTallMm }),
    ...(picture === TARGET.id ? {} : { picture: String(picture) }),
    ...(pictures.length ? { pictures } : {}),
    ...(carried.value.pieces.length ? { pieces: carried.value.pieces } : {}),
    tags: [...new Set([...(a.tags ?? []), ...(b.tags ?? [])])].slice(0, 12),
    id: freshId(identity.random),
    code: trialCode(chanceFrom(Math.floor(identity.random() * 2 ** 31))),
    createdAt: identity.createdAt,
    board: { ...a.board, count: carried.value.count },
    factors,
    usual: { ...a.usual, ...Object.fromEntries(fixed.map(key => [key, value(key)])) },
    used: names.used,
    overrides: [...new Set([...a.overrides, ...b.overrides])],
    design: {
      ...a.design,
      kind: 'every combination',
      interactions: [],
      groupKey: null,
      control: false,
      leftOut: [],
      efficiency: dEfficiency(
        patches.map(p => p.levels),
        counts,
        [],
      ),
    },
    patches,
  };
  return good({ plan, records: recordsOfBoth(first, second, plan) });
}

/** Why two trials cannot be one. */
function cannotBeOne(a: TrialPlan, b: TrialPlan): Outcome<never> | undefined {
  const sameMethod =
    !a.compared?.length &&
    !b.compared?.length &&
    JSON.stringify(a.used.method) === JSON.stringify(b.used.method);
  if (!sameMethod)
    return bad(
      'method',
      'They are not made by the same method, step for step.',
      'Plan a trial that compares the methods instead.',
    );
  const [p, q] = [sizeOf(a), sizeOf(b)];
  if (p.w !== q.w || p.h !== q.h)
    return bad('size', 'Their patches are not of one size, and what is read of them depends on it.');
  if ([a, b].some(t => t.design.stripKey || t.design.loadSize))
    return bad('whole-plots', 'A trial in strips or loads keeps its order to itself.');
  if (a.board.onePiece !== b.board.onePiece)
    return bad('boards', 'One is on boards, the other on single pieces.');
  if ([...a.wear].sort().join() !== [...b.wear].sort().join())
    return bad('wear', 'They are worn in different ways when they are finished.');
  const codes = new Set(a.patches.map(x => x.code));
  const twice = b.patches.find(x => codes.has(x.code));
  return (
    twice &&
    bad('codes', `Both have a patch ${twice.code}: one board would carry the same pencil mark twice.`)
  );
}

/** What a patch of a plan has of everything that can be varied. */
const valuesOf = (plan: TrialPlan, levels: readonly number[]) => {
  const chosen = { picture: plan.picture ?? TARGET.id, ...chosenOf(plan, levels) };
  return (key: Factor['key']): LevelValue => chosen[key] as LevelValue;
};

/** Everything of which the patches of the two have more than one level. */
function factorsOfBoth(a: TrialPlan, b: TrialPlan): Factor[] {
  const known = a.used.method.vary as readonly string[];
  const keys = (['picture', ...SETTING_KEYS] as const).filter(k => k === 'picture' || known.includes(k));
  const order = [...new Set([...a.factors, ...b.factors].map(f => f.key))];
  const all = [a, b].flatMap(plan => plan.patches.map(p => valuesOf(plan, p.levels)));
  return [...order, ...keys.filter(k => !order.includes(k))].flatMap(key => {
    const levels = [...new Set(all.map(value => value(key)))];
    if (levels.length < 2) return [];
    const isNumber = levels.every(l => typeof l === 'number');
    return { key, levels: isNumber ? levels.sort((x, y) => Number(x) - Number(y)) : levels };
  });
}

/** The things of both; what is in both is as it was in the older. */
const itemsOfBoth = (a: TrialPlan, b: TrialPlan) =>
  Object.fromEntries(
    (['printers', 'donors', 'mediums', 'substrates', 'preparations', 'tools', 'finishes'] as const).map(
      kind => {
        const have: readonly { id: string }[] = a.used[kind];
        const more: readonly { id: string }[] = b.used[kind];
        return [kind, [...have, ...more.filter(i => !have.some(h => h.id === i.id))]];
      },
    ),
  ) as Partial<TrialPlan['used']>;

/** Boards of both: pieces of their own first, then the older's boards, then the younger's where those are alike. */
function carriersOfBoth(a: TrialPlan, b: TrialPlan) {
  const isLike = (x: Carrier, y: Carrier) =>
    x.w === y.w &&
    x.h === y.h &&
    x.outline === y.outline &&
    JSON.stringify(x.corners) === JSON.stringify(y.corners);
  const alike = isLike(a.board, b.board);
  const ownOf = (plan: TrialPlan, asPieces: boolean) =>
    asPieces ? plan.board.count : (plan.pieces?.length ?? 0);
  const [ownA, ownB] = [ownOf(a, false), ownOf(b, !alike)];
  const named: Piece[] = Array.from({ length: ownB }, (_, board) => {
    const { w, h, outline = 'rectangle', corners, of, taken } = carrierOf(b, board);
    const name = `${b.code}, ${within(carrierName(b, board))}`.slice(0, 40);
    return {
      ...{ name, w, h, outline },
      ...(corners ? { corners } : {}),
      ...(of ? { of } : {}),
      ...(taken ? { taken } : {}),
    };
  });
  const pieces = [...(a.pieces ?? []), ...named];
  if (pieces.length > MOST_PIECES)
    return bad(
      'pieces',
      `Together they have ${pieces.length} pieces of their own; ${MOST_PIECES} is the most.`,
    );
  const likeA = likeBoards(a);
  const of = (which: 0 | 1, board: number) => {
    if (which === 0) return board < ownA ? board : ownB + board;
    return board < ownB ? ownA + board : ownA + likeA + board;
  };
  const count = a.board.count + b.board.count;
  return good({ pieces, of, count });
}

/** What happened to the patches of both; the air that the younger was planned with is noted where it begins. */
function recordsOfBoth(first: WholeTrial, second: WholeTrial, plan: TrialPlan): TrialRecord[] {
  const codes = new Set(plan.patches.map(p => p.code));
  const ids = new Set<string>();
  const kept = [first, second].flatMap(({ records }) => {
    // A change is in the plan now.
    const gone = new Set(records.flatMap(r => (r.kind === 'change' ? [r.id] : [])));
    return records.filter(
      r =>
        !gone.has(r.id) &&
        !(r.kind === 'undo' && gone.has(r.of)) &&
        (r.patch === null || codes.has(r.patch)) &&
        !ids.has(r.id) &&
        ids.add(r.id),
    );
  });
  const trimmed = kept.map(r =>
    r.kind === 'step' && r.also ? { ...r, also: r.also.filter(code => codes.has(code)) } : r,
  );
  const { air, id, createdAt } = second.plan;
  const isOther = JSON.stringify(air) !== JSON.stringify(first.plan.air);
  const noted: TrialRecord[] = isOther
    ? [{ id: `air-${id}`, at: createdAt, patch: null, kind: 'air', air }]
    : [];
  return [...trimmed, ...noted];
}

/**
 * Some patches of a trial as a trial of their own, with their boards, codes and records; the change that takes them out
 * of the one they came from is the caller's to record. Fails where either would be left with fewer than two patches.
 *
 * @example splitTrial({ plan, records }, [], { createdAt: plan.createdAt, random: () => 0.5 }).ok; // => false
 */
export function splitTrial(
  { plan: made, records }: WholeTrial,
  codes: readonly string[],
  identity: Identity,
): Outcome<WholeTrial> {
  const plan = planNow(made, records);
  const go = new Set(codes);
  const patches = plan.patches.filter(p => go.has(p.code));
  if (patches.length < 2 || plan.patches.length - patches.length < 2)
    return bad('too-few', 'At least two patches have to be left in each of the two.', 'Choose others.');
  if (plan.design.stripKey || plan.design.loadSize)
    return bad('whole-plots', 'A trial in strips or loads stays whole: its parts were made together.');
  const orders = [...patches].sort((x, y) => x.order - y.order).map(p => p.code);
  const split: TrialPlan = {
    ...plan,
    id: freshId(identity.random),
    code: trialCode(chanceFrom(Math.floor(identity.random() * 2 ** 31))),
    createdAt: identity.createdAt,
    name: `${plan.name}, split off`.slice(0, 80),
    patches: patches.map(p => ({ ...p, order: orders.indexOf(p.code) })),
  };
  return good({
    plan: split,
    records: recordsOfBoth({ plan, records }, { plan: { ...plan, id: split.id }, records: [] }, split),
  });
}
