import * as v from 'valibot';
import { FACTOR_KEYS } from '../factors/index.ts';
import { Method } from '../methods/schema.ts';
import { Donor, Finish, Medium, Preparation, Printer, Substrate, Tool } from '../shelf/index.ts';

/** The version of everything stored and exported. Older ones are migrated on the way in. */
export const SCHEMA_VERSION = 2;

const iso = v.pipe(v.string(), v.isoTimestamp());
const idText = v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/));
const words = (most: number) => v.pipe(v.string(), v.maxLength(most));
const mm = v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(5000));

export const INTENTS = ['crisp', 'worn', 'painterly'] as const;
export const STAGES = ['wet', 'dry'] as const;

/** An id, or nothing where the method does not speak of it. */
const maybeId = v.union([idText, v.literal('')]);

const LevelValue = v.union([idText, v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(20_000))]);

/** A factor and its 2–8 levels: shelf ids, ids of the method's choices, or numbers. */
export const Factor = v.object({
  key: v.picklist(FACTOR_KEYS),
  levels: v.pipe(v.array(LevelValue), v.minLength(2), v.maxLength(8)),
});

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

const smallIndex = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7));

export const Air = v.object({
  tempC: v.pipe(v.number(), v.minValue(-10), v.maxValue(50)),
  rh: v.pipe(v.number(), v.minValue(0), v.maxValue(99)),
});

export const Patch = v.object({
  code: v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}-[0-9A-Z]{3}$/)),
  /** Place in the order of work, from 0. */
  order: v.pipe(v.number(), v.integer(), v.minValue(0)),
  board: v.pipe(v.number(), v.integer(), v.minValue(0)),
  x: mm,
  y: mm,
  repeat: v.pipe(v.number(), v.integer(), v.minValue(0)),
  /** Index of the level of each factor, in the order of `factors`; none for a control ("your usual way"). */
  levels: v.array(v.pipe(v.number(), v.integer(), v.minValue(0))),
  /** The strip of the board it lies in (a whole plot), counted over all boards. */
  strip: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
  /** Which group in time it is made in, where something costly to change is grouped. */
  group: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0))),
});

export const OUTLINES = ['rectangle', 'ellipse'] as const;
export const DESIGNS = ['every combination', 'best fraction', 'ladder', 'strips'] as const;
export const WEAR_TESTS = ['dry-rub', 'wet-rub', 'tape', 'water', 'wash', 'bend', 'sun', 'heat'] as const;

/** How the runs were chosen and what the plan was told to keep together. */
export const Design = v.object({
  kind: v.picklist(DESIGNS),
  /** Pairs of factors (their places in `factors`) whose interaction the plan must be able to tell. */
  interactions: v.optional(v.array(v.tuple([smallIndex, smallIndex])), []),
  /** The factor given to whole strips of a board. */
  stripKey: v.optional(v.nullable(v.picklist(FACTOR_KEYS)), null),
  /** The factor whose levels are made together because changing it is costly, and why. */
  groupKey: v.optional(v.nullable(v.picklist(FACTOR_KEYS)), null),
  /** Most pieces of one load (an oven, a pot); the `group` of a patch is then its load. */
  loadSize: v.optional(v.nullable(v.pipe(v.number(), v.integer(), v.minValue(2))), null),
  /** A patch of "your usual way" on every board. */
  control: v.optional(v.boolean(), false),
  /** D-efficiency of the runs under the model, 0–1. */
  efficiency: v.optional(v.nullable(v.number()), null),
  /** Combinations that rules left out, with the reason, counted. */
  leftOut: v.optional(v.array(v.object({ why: words(400), count: v.number() })), []),
});

export const TrialPlan = v.object({
  schema: v.literal(SCHEMA_VERSION),
  id: idText,
  code: v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}$/)),
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80)),
  question: words(400),
  intent: v.picklist(INTENTS),
  method: idText,
  createdAt: iso,
  seed: v.pipe(v.number(), v.integer()),
  patchMm: v.pipe(v.number(), v.minValue(20), v.maxValue(100)),
  gutterMm: mm,
  marginMm: mm,
  board: v.object({
    w: mm,
    h: mm,
    count: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400)),
    outline: v.optional(v.picklist(OUTLINES), 'rectangle'),
    /** Each board is a piece of its own, such as a tile. */
    onePiece: v.optional(v.boolean(), false),
  }),
  design: Design,
  /** Rules the maker chose to go against, by id. */
  overrides: v.optional(v.array(idText), []),
  /** How the finished patches are worn, to see whether they last. */
  wear: v.optional(v.array(v.picklist(WEAR_TESTS)), []),
  /** Standard deviation between patches made alike that the plan reckons with, in points landed. */
  noise: v.optional(v.pipe(v.number(), v.minValue(0.1), v.maxValue(60)), 6),
  factors: v.pipe(v.array(Factor), v.minLength(1), v.maxLength(8)),
  usual: Usual,
  repeats: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10)),
  air: Air,
  /** The items as they were when the trial was planned: a trial keeps what it used. */
  used: v.object({
    printers: v.array(Printer),
    donors: v.array(Donor),
    mediums: v.array(Medium),
    substrates: v.array(Substrate),
    preparations: v.array(Preparation),
    tools: v.array(Tool),
    finishes: v.array(Finish),
    method: Method,
  }),
  patches: v.pipe(v.array(Patch), v.minLength(2), v.maxLength(400)),
});

const BareShape = v.picklist(['round', 'streak', 'edge band', 'corner', 'ragged', 'speckle']);
const num = v.pipe(v.number(), v.finite());

/** A per-pixel result kept beside a reading: bytes in base64, row by row. */
const Map8 = v.object({ w: v.number(), h: v.number(), pxPerMm: v.number(), data: words(2_000_000) });

export const BarePatch = v.object({
  x: num,
  y: num,
  area: num,
  shape: BareShape,
  /** Distance of its nearest point from the picture's edge, mm. */
  edge: num,
  /** Direction of its long axis, degrees from the x axis, 0–180. */
  along: num,
});

/** Numbers measured from one photo (docs/READING.md). */
export const Reading = v.object({
  landed: v.nullable(num),
  landedGive: v.nullable(num),
  visible: num,
  bare: v.array(BarePatch),
  veil: v.nullable(num),
  veilGive: v.nullable(num),
  stain: v.nullable(num),
  tone: v.nullable(num),
  /** Width of the finest line that is still separate, mm; older readings have none. */
  detail: v.optional(v.nullable(num), null),
  /** Share landed within light, middle and dark tones of the picture, %. */
  landedByTone: v.object({ light: v.nullable(num), mid: v.nullable(num), dark: v.nullable(num) }),
  edges: v.object({ top: num, right: num, bottom: num, left: num }),
  mirrored: v.boolean(),
  turn: v.picklist([0, 90, 180, 270]),
  quality: v.object({ pxPerMm: num, blurMm: num, tiltDeg: num, glare: num, residualMm: num, light: num }),
  notes: v.array(words(300)),
  maps: v.optional(v.object({ state: Map8, veil: Map8 })),
});

const base = { id: idText, at: iso, patch: v.nullable(v.string()) };

/** Where a measured value comes from; nothing where a hand put it in. */
export const SOURCES = ['hand', 'logger', 'simulated'] as const;

/** One append-only event of a trial. */
export const TrialRecord = v.variant('kind', [
  v.object({
    ...base,
    kind: v.literal('step'),
    step: idText,
    round: v.pipe(v.number(), v.integer(), v.minValue(1)),
    /** When it was pressed, where the maker said that it had been done before (`at`). */
    told: v.optional(iso),
    /** Left out on purpose; what follows goes on from here. */
    skipped: v.optional(v.boolean()),
    /** Other patches it was done for in the same go. */
    also: v.optional(v.pipe(v.array(v.string()), v.maxLength(400))),
  }),
  v.object({ ...base, kind: v.literal('undo'), of: idText }),
  v.object({
    ...base,
    kind: v.literal('air'),
    air: Air,
    source: v.optional(v.picklist(SOURCES)),
    /** The best short wait learnt for this air, minutes, where the plan leaves it open. */
    waitMin: v.optional(v.pipe(v.number(), v.minValue(0.01), v.maxValue(60))),
  }),
  /** The answer to "is it ready?": whether what the next step waits for has come. */
  v.object({
    ...base,
    kind: v.literal('ready'),
    ready: v.boolean(),
    step: idText,
    round: v.pipe(v.number(), v.integer(), v.minValue(1)),
  }),
  /** The coat by weight, grams on one patch. */
  v.object({
    ...base,
    kind: v.literal('coat'),
    grams: v.pipe(v.number(), v.minValue(0), v.maxValue(10_000)),
    source: v.optional(v.picklist(SOURCES)),
  }),
  v.object({ ...base, kind: v.literal('note'), text: words(2000) }),
  v.object({ ...base, kind: v.literal('spoilt'), why: words(400) }),
  v.object({
    ...base,
    kind: v.literal('photo'),
    photo: idText,
    stage: v.picklist(STAGES),
    round: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(6)),
    name: words(200),
    simulated: v.boolean(),
    takenAt: v.nullable(iso),
  }),
  v.object({
    ...base,
    kind: v.literal('reading'),
    photo: idText,
    reading: Reading,
    straight: v.nullable(idText),
  }),
  v.object({
    ...base,
    kind: v.literal('verdict'),
    verdict: v.picklist(['keep', 'fix', 'scrap']),
    grade: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(5)),
    symptoms: v.array(idText),
  }),
]);

export type Design = v.InferOutput<typeof Design>;
export type Outline = (typeof OUTLINES)[number];
export type WearTest = (typeof WEAR_TESTS)[number];
export type Factor = v.InferOutput<typeof Factor>;
export type Usual = v.InferOutput<typeof Usual>;
export type Patch = v.InferOutput<typeof Patch>;
export type TrialPlan = v.InferOutput<typeof TrialPlan>;
export type TrialRecord = v.InferOutput<typeof TrialRecord>;
export type BarePatch = v.InferOutput<typeof BarePatch>;
export type Reading = v.InferOutput<typeof Reading>;
export type RecordOf<K extends TrialRecord['kind']> = Extract<TrialRecord, { kind: K }>;
export type Intent = TrialPlan['intent'];
export type LevelValue = v.InferOutput<typeof LevelValue>;
