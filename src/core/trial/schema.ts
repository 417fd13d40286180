import * as v from 'valibot';
import { FACTOR_KEYS, WEAR_TESTS } from '../factors/index.ts';
import { Method } from '../methods/schema.ts';
import { Donor, Finish, Medium, Preparation, Printer, Substrate, Tool } from '../shelf/index.ts';
import { Air, idText, iso, patchCode, words } from './parts.ts';

/** The version of everything stored and exported. Older ones are migrated on the way in. */
export const SCHEMA_VERSION = 3;

const mm = v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(5000));

/** The most pictures of one trial. */
export const MOST_PICTURES = 8;

/** A side of a patch; of a piece that is made for real it may be longer. */
const patchSide = v.pipe(v.number(), v.minValue(20), v.maxValue(1000));

export const INTENTS = ['crisp', 'worn', 'painterly'] as const;

const boardMm = v.pipe(v.number(), v.minValue(20), v.maxValue(5000));
/** An id, or nothing where the method does not speak of it. */
const maybeId = v.union([idText, v.literal('')]);

const LevelValue = v.union([idText, v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(20_000))]);

/** A factor and its 2–8 levels: shelf ids, ids of the method's choices, or numbers. */
export const Factor = v.object({
  key: v.picklist(FACTOR_KEYS),
  levels: v.pipe(v.array(LevelValue), v.minLength(2), v.maxLength(8)),
  /** The methods it is varied in, by id; in all that know it where nothing is said. */
  of: v.optional(v.pipe(v.array(idText), v.minLength(1), v.maxLength(8))),
});

/** The level of a factor that a patch's method does not have, or is not varied in. */
export const NO_LEVEL = -1;

/** What every patch gets unless a factor says otherwise. */
export const Usual = v.object({
  printer: idText,
  donor: idText,
  medium: idText,
  substrate: idText,
  preparation: idText,
  coatMm: v.pipe(v.number(), v.minValue(0.05), v.maxValue(5)),
  dryHours: v.pipe(v.number(), v.minValue(0.001), v.maxValue(240)),
  rounds: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(6)),
  coatWhere: maybeId,
  water: maybeId,
  removal: maybeId,
  trim: maybeId,
  pressing: maybeId,
  rubTool: maybeId,
  finish: maybeId,
  copyAgeH: v.pipe(v.number(), v.minValue(0.1), v.maxValue(20_000)),
});

/** A method beside the trial's own, with what its patches get unless a factor says otherwise. */
export const Compared = v.object({ method: idText, usual: Usual });

const count = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4000));
const smallIndex = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7));

const levelIndex = v.pipe(v.number(), v.integer(), v.minValue(NO_LEVEL), v.maxValue(7));

export const Patch = v.object({
  code: patchCode,
  /** Place in the order of work, from 0. */
  order: count,
  board: count,
  x: mm,
  y: mm,
  repeat: count,
  /** Index of the level of each factor, in the order of `factors`, −1 for one that its method does not have; none for a control ("your usual way"). */
  levels: v.pipe(v.array(levelIndex), v.maxLength(8)),
  /** The strip of the board it lies in (a whole plot), counted over all boards. */
  strip: v.optional(count),
  /** Which group in time it is made in, where something costly to change is grouped. */
  group: v.optional(count),
  /** The batch it was added with, from 1; the patches of the plan itself have none. */
  batch: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(99))),
});

export const OUTLINES = ['rectangle', 'ellipse', 'corners'] as const;
export const DESIGNS = ['every combination', 'best fraction', 'ladder', 'strips'] as const;

/** How the runs were chosen and what the plan was told to keep together. */
export const Design = v.object({
  kind: v.picklist(DESIGNS),
  /** Pairs of factors (their places in `factors`) whose interaction the plan must be able to tell. */
  interactions: v.optional(v.pipe(v.array(v.tuple([smallIndex, smallIndex])), v.maxLength(28)), []),
  /** The factor given to whole strips of a board. */
  stripKey: v.optional(v.nullable(v.picklist(FACTOR_KEYS)), null),
  /** The factor whose levels are made together because changing it is costly, and why. */
  groupKey: v.optional(v.nullable(v.picklist(FACTOR_KEYS)), null),
  /** Most pieces of one load (an oven, a pot); the `group` of a patch is then its load. */
  loadSize: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(2), v.maxValue(400))), null),
  /** A patch of "your usual way" on every board. */
  control: v.optional(v.boolean(), false),
  /** D-efficiency of the runs under the model, 0–1. */
  efficiency: v.optional(v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(1.000001))), null),
  /** Combinations that rules left out, with the reason, counted. */
  leftOut: v.optional(
    v.pipe(
      v.array(v.object({ why: words(400), count: v.pipe(v.number(), v.integer(), v.minValue(0)) })),
      v.maxLength(400),
    ),
    [],
  ),
});

/** The most items of one kind that a plan can name. */
const held = <S extends v.GenericSchema>(item: S) => v.pipe(v.array(item), v.maxLength(200));

/** Things of the shelf as they were when a plan took them. */
const Held = {
  printers: held(Printer),
  donors: held(Donor),
  mediums: held(Medium),
  substrates: held(Substrate),
  preparations: held(Preparation),
  tools: held(Tool),
  finishes: held(Finish),
};

const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1));

/** The most corners of an outline that is given by them. */
export const MOST_CORNERS = 24;
/** The most pieces of their own among the boards of a trial. */
export const MOST_PIECES = 20;

/** Corners of an outline in turn, as shares of its width and height from the top left. */
export const Corners = v.pipe(
  v.array(v.object({ x: share, y: share })),
  v.minLength(3, 'An outline has at least three corners.'),
  v.maxLength(MOST_CORNERS, `At most ${MOST_CORNERS} corners.`),
);

const Places = v.pipe(v.array(v.object({ x: mm, y: mm, w: mm, h: mm, code: patchCode })), v.maxLength(400));

/** A piece of its own that carries patches among the boards: a lid, a slice, a panel, or a board of another trial. */
export const Piece = v.object({
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'Give the piece a name.'),
    v.maxLength(40, 'Shorten the name of the piece to 40 letters.'),
  ),
  w: boardMm,
  h: boardMm,
  outline: v.picklist(OUTLINES),
  corners: v.optional(Corners),
  /** The trial whose board it is, and which. */
  of: v.optional(v.object({ trial: idText, board: count })),
  /** What other trials have on it, mm from its top left. */
  taken: v.optional(Places),
  /** Patches that are finished, which those of this trial lie on: a further layer. */
  under: v.optional(Places),
});
export type Piece = v.InferOutput<typeof Piece>;

const tag = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(30));
const name = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80));
const factors = v.pipe(v.array(Factor), v.maxLength(8));

/** A picture of the maker's own as it lies on patches of a trial; how it looks is kept with the trial's records. */
export const PlanPicture = v.object({
  id: v.pipe(idText, v.notValue('target')),
  name,
  /** All of it, as large as a patch takes; or a part at the size it has on its piece. */
  how: v.picklist(['whole', 'detail']),
  /** The middle of the part, as shares of the picture from its top left. */
  at: v.object({ x: share, y: share }),
  /** With tone steps and fine lines below it, where there is room. */
  strip: v.boolean(),
});

/** A change of a plan after it was made; `what` says which. */
export const Change = v.variant('what', [
  v.object({ what: v.literal('words'), name, question: words(400) }),
  v.object({ what: v.literal('tags'), tags: v.pipe(v.array(tag), v.maxLength(12)) }),
  /** Patches made later, a block of their own, with the levels and the items that are new. */
  v.object({
    what: v.literal('batch'),
    patches: v.pipe(v.array(Patch), v.minLength(1), v.maxLength(400)),
    /** Boards there are with it. */
    boards: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400)),
    factors: v.optional(factors),
    used: v.optional(v.partial(v.object(Held))),
  }),
  v.object({
    what: v.literal('drop'),
    patches: v.pipe(v.array(patchCode), v.minLength(1), v.maxLength(400)),
  }),
  v.object({
    what: v.literal('place'),
    places: v.pipe(
      v.array(v.object({ code: patchCode, board: count, x: mm, y: mm })),
      v.minLength(1),
      v.maxLength(400),
    ),
  }),
  /** Patches that went to another trial, with all that happened to them. */
  v.object({
    what: v.literal('split'),
    patches: v.pipe(v.array(patchCode), v.minLength(2), v.maxLength(400)),
    into: idText,
  }),
  /** What nobody has begun yet in another order of work: first to last. */
  v.object({
    what: v.literal('order'),
    patches: v.pipe(v.array(patchCode), v.minLength(1), v.maxLength(400)),
  }),
  v.object({ what: v.literal('archive'), archived: v.boolean() }),
]);
export type Change = v.InferOutput<typeof Change>;

const WholePlan = v.object({
  schema: v.literal(SCHEMA_VERSION),
  id: idText,
  code: v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}$/)),
  name,
  question: words(400),
  /** What the maker files it under. */
  tags: v.optional(v.pipe(v.array(tag), v.maxLength(12))),
  intent: v.picklist(INTENTS),
  method: idText,
  createdAt: iso,
  seed: v.pipe(v.number(), v.safeInteger()),
  /** The width of a patch, mm; its height too, where no other is said. */
  patchMm: patchSide,
  patchTallMm: v.optional(patchSide),
  gutterMm: mm,
  marginMm: mm,
  board: v.object({
    w: boardMm,
    h: boardMm,
    count: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400)),
    outline: v.optional(v.picklist(OUTLINES), 'rectangle'),
    corners: v.optional(Corners),
    /** Each board is a piece of its own, such as a tile. */
    onePiece: v.optional(v.boolean(), false),
  }),
  /** Pieces of their own: the first of the boards, in this order. */
  pieces: v.optional(v.pipe(v.array(Piece), v.maxLength(MOST_PIECES))),
  design: Design,
  /** Rules the maker chose to go against, by id. */
  overrides: v.optional(v.pipe(v.array(idText), v.maxLength(200)), []),
  /** How the finished patches are worn, to see whether they last. */
  wear: v.optional(v.pipe(v.array(v.picklist(WEAR_TESTS)), v.maxLength(WEAR_TESTS.length)), []),
  /** Standard deviation between patches made alike that the plan reckons with, in points landed. */
  noise: v.optional(v.pipe(v.number(), v.minValue(0.1), v.maxValue(60)), 6),
  /** What is varied: nothing where pieces are made by a recipe. */
  factors,
  /** The recipe that its patches are pieces of, made for real. */
  real: v.optional(v.object({ recipe: idText })),
  usual: Usual,
  /** What is usual in every further method that is compared; the first is `method`. */
  compared: v.optional(v.pipe(v.array(Compared), v.maxLength(7))),
  /** What a patch carries unless a factor says otherwise: one of `pictures`; the test target without it. */
  picture: v.optional(idText),
  pictures: v.optional(v.pipe(v.array(PlanPicture), v.maxLength(MOST_PICTURES))),
  repeats: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10)),
  air: Air,
  /** The items as they were when the trial was planned: a trial keeps what it used. */
  used: v.object({
    ...Held,
    method: Method,
    /** The other methods that are compared with it. */
    otherMethods: v.optional(v.pipe(v.array(Method), v.maxLength(7))),
  }),
  patches: v.pipe(v.array(Patch), v.minLength(1), v.maxLength(400)),
});

/** The longest side of a patch of a trial, mm; pieces that are made for real may be larger. */
const MOST_PATCH_MM = 100;
const isTrial = (p: v.InferOutput<typeof WholePlan>): boolean =>
  p.factors.length > 0 && p.patches.length > 1 && Math.max(p.patchMm, p.patchTallMm ?? 0) <= MOST_PATCH_MM;

/** A trial, or pieces made for real, as it was planned. */
export const TrialPlan = v.pipe(
  WholePlan,
  v.check(
    p => p.real !== undefined || isTrial(p),
    'A trial varies at least one thing on at least two patches, none larger than a patch may be.',
  ),
);

export type Design = v.InferOutput<typeof Design>;
export type Outline = (typeof OUTLINES)[number];
export type Factor = v.InferOutput<typeof Factor>;
export type PlanPicture = v.InferOutput<typeof PlanPicture>;
export type Compared = v.InferOutput<typeof Compared>;
export type Usual = v.InferOutput<typeof Usual>;
export type Patch = v.InferOutput<typeof Patch>;
export type TrialPlan = v.InferOutput<typeof TrialPlan>;
export type Intent = TrialPlan['intent'];
export type LevelValue = v.InferOutput<typeof LevelValue>;
