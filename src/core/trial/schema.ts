import * as v from 'valibot';
import { FACTOR_KEYS, WEAR_TESTS } from '../factors/index.ts';
import { Method } from '../methods/schema.ts';
import { Donor, Finish, Medium, Preparation, Printer, Substrate, Tool } from '../shelf/index.ts';
import { SYMPTOM_IDS } from '../symptoms/index.ts';

/** The version of everything stored and exported. Older ones are migrated on the way in. */
export const SCHEMA_VERSION = 3;

const EARLIEST = Date.parse('2000-01-01T00:00:00Z');
const LATEST = Date.parse('2100-01-01T00:00:00Z');
/** A moment that a calendar knows, in a century in which somebody can have stood at a bench. */
const iso = v.pipe(
  v.string(),
  v.maxLength(40),
  v.isoTimestamp(),
  v.check(text => Date.parse(text) >= EARLIEST && Date.parse(text) < LATEST, 'No such time.'),
);
const patchCode = v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}-[0-9A-Z]{3}$/));
/** The most records a trial can have: every step of 400 patches and ten of anything else for each. */
export const MOST_RECORDS = 40_000;
const idText = v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/));
const words = (most: number) => v.pipe(v.string(), v.maxLength(most));
const mm = v.pipe(v.number(), v.finite(), v.minValue(0), v.maxValue(5000));

export const INTENTS = ['crisp', 'worn', 'painterly'] as const;
export const STAGES = ['wet', 'dry'] as const;

/** An id, or nothing where the method does not speak of it. */
const boardMm = v.pipe(v.number(), v.minValue(20), v.maxValue(5000));
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

const count = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4000));
const smallIndex = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7));

export const Air = v.object({
  tempC: v.pipe(v.number(), v.minValue(-10), v.maxValue(50)),
  rh: v.pipe(v.number(), v.minValue(0), v.maxValue(99)),
});

export const Patch = v.object({
  code: patchCode,
  /** Place in the order of work, from 0. */
  order: count,
  board: count,
  x: mm,
  y: mm,
  repeat: count,
  /** Index of the level of each factor, in the order of `factors`; none for a control ("your usual way"). */
  levels: v.pipe(v.array(smallIndex), v.maxLength(8)),
  /** The strip of the board it lies in (a whole plot), counted over all boards. */
  strip: v.optional(count),
  /** Which group in time it is made in, where something costly to change is grouped. */
  group: v.optional(count),
});

export const OUTLINES = ['rectangle', 'ellipse'] as const;
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

export const TrialPlan = v.object({
  schema: v.literal(SCHEMA_VERSION),
  id: idText,
  code: v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}$/)),
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80)),
  question: words(400),
  intent: v.picklist(INTENTS),
  method: idText,
  createdAt: iso,
  seed: v.pipe(v.number(), v.safeInteger()),
  patchMm: v.pipe(v.number(), v.minValue(20), v.maxValue(100)),
  gutterMm: mm,
  marginMm: mm,
  board: v.object({
    w: boardMm,
    h: boardMm,
    count: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(400)),
    outline: v.optional(v.picklist(OUTLINES), 'rectangle'),
    /** Each board is a piece of its own, such as a tile. */
    onePiece: v.optional(v.boolean(), false),
  }),
  design: Design,
  /** Rules the maker chose to go against, by id. */
  overrides: v.optional(v.pipe(v.array(idText), v.maxLength(200)), []),
  /** How the finished patches are worn, to see whether they last. */
  wear: v.optional(v.pipe(v.array(v.picklist(WEAR_TESTS)), v.maxLength(WEAR_TESTS.length)), []),
  /** Standard deviation between patches made alike that the plan reckons with, in points landed. */
  noise: v.optional(v.pipe(v.number(), v.minValue(0.1), v.maxValue(60)), 6),
  factors: v.pipe(v.array(Factor), v.minLength(1), v.maxLength(8)),
  usual: Usual,
  repeats: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(10)),
  air: Air,
  /** The items as they were when the trial was planned: a trial keeps what it used. */
  used: v.object({
    printers: held(Printer),
    donors: held(Donor),
    mediums: held(Medium),
    substrates: held(Substrate),
    preparations: held(Preparation),
    tools: held(Tool),
    finishes: held(Finish),
    method: Method,
  }),
  patches: v.pipe(v.array(Patch), v.minLength(2), v.maxLength(400)),
});

const BareShape = v.picklist(['round', 'streak', 'edge band', 'corner', 'ragged', 'speckle']);
const within = (lo: number, hi: number) => v.pipe(v.number(), v.minValue(lo), v.maxValue(hi));
const percent = within(0, 100);
/** A place on a picture, mm from its top left; a little outside where a patch does not lie straight. */
const place = within(-50, 250);
const maybe = <S extends v.GenericSchema>(schema: S) => v.nullable(schema);

const side = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(1000));
/** A per-pixel result kept beside a reading: a byte for each of `w` × `h` pixels in base64, row by row. */
const Map8 = v.pipe(
  v.object({ w: side, h: side, pxPerMm: within(0.05, 100), data: words(1_400_000) }),
  v.check(
    map => map.data.length === 4 * Math.ceil((map.w * map.h) / 3) && /^[A-Za-z0-9+/]*={0,2}$/.test(map.data),
    'A map is not as large as it says.',
  ),
);

/** The maps of a reading: what each pixel is, and how veiled. Kept apart from the record and fetched when looked at. */
export const ReadingMaps = v.object({ state: Map8, veil: Map8 });
export type ReadingMaps = v.InferOutput<typeof ReadingMaps>;

export const BarePatch = v.object({
  x: place,
  y: place,
  area: within(0, 50_000),
  shape: BareShape,
  /** Distance of its nearest point from the picture's edge, mm. */
  edge: place,
  /** Direction of its long axis, degrees from the x axis, 0–180. */
  along: within(0, 180),
});

/** Numbers measured from one photo (docs/READINGS.md). */
export const Reading = v.object({
  landed: maybe(percent),
  landedGive: maybe(percent),
  visible: percent,
  bare: v.pipe(v.array(BarePatch), v.maxLength(5000)),
  veil: maybe(within(0, 1)),
  veilGive: maybe(within(0, 1)),
  stain: maybe(percent),
  tone: maybe(within(0, 150)),
  /** Width of the finest line that is still separate, mm; older readings have none. */
  detail: v.optional(maybe(within(0, 50)), null),
  /** Share landed within light, middle and dark tones of the picture, %. */
  landedByTone: v.object({ light: maybe(percent), mid: maybe(percent), dark: maybe(percent) }),
  edges: v.object({ top: percent, right: percent, bottom: percent, left: percent }),
  mirrored: v.boolean(),
  turn: v.picklist([0, 90, 180, 270]),
  quality: v.object({
    pxPerMm: within(0, 2000),
    blurMm: within(0, 100),
    tiltDeg: within(-90, 90),
    glare: within(0, 1),
    residualMm: within(0, 100),
    light: within(0, 100),
  }),
  notes: v.pipe(v.array(words(300)), v.maxLength(40)),
  maps: v.optional(ReadingMaps),
});

const base = { id: idText, at: iso, patch: v.nullable(patchCode) };
const round = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(50));

/** Where a measured value comes from; nothing where a hand put it in. */
export const SOURCES = ['hand', 'logger', 'simulated'] as const;

/** One append-only event of a trial. */
export const TrialRecord = v.variant('kind', [
  v.object({
    ...base,
    kind: v.literal('step'),
    step: idText,
    round,
    /** When it was pressed, where the maker said that it had been done before (`at`). */
    told: v.optional(iso),
    /** Left out on purpose; what follows goes on from here. */
    skipped: v.optional(v.boolean()),
    /** Other patches it was done for in the same go. */
    also: v.optional(v.pipe(v.array(patchCode), v.maxLength(400))),
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
    round,
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
    symptoms: v.pipe(v.array(v.picklist(SYMPTOM_IDS)), v.maxLength(60)),
  }),
]);

export type Design = v.InferOutput<typeof Design>;
export type Outline = (typeof OUTLINES)[number];
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
