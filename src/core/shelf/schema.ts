import * as v from 'valibot';

const id = v.pipe(v.string(), v.regex(/^[a-z0-9-]{1,40}$/));
const name = v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80));
const money = v.pipe(v.number(), v.minValue(0), v.maxValue(10_000));
const share = v.pipe(v.number(), v.minValue(0), v.maxValue(1));
/** Linear-light RGB, 0–1. */
const colour = v.tuple([share, share, share]);

/** What brings the colourant. */
export const Printer = v.object({
  id,
  name,
  colourant: v.picklist(['toner', 'pigment ink', 'dye ink']),
  pricePerPage: money,
});

/** The printed sheet that is given up. `gsm` is its weight in g/m². */
export const Donor = v.object({
  id,
  name,
  gsm: v.pipe(v.number(), v.minValue(10), v.maxValue(400)),
  coated: v.boolean(),
  sheet: v.object({ w: v.number(), h: v.number() }),
  packSize: v.pipe(v.number(), v.integer(), v.minValue(1)),
  packPrice: money,
});

/**
 * What glues the colourant on. `openMin`: minutes until a 0.3 mm coat turns tacky on a closed ground;
 * `dryHours`: hours until a 0.3 mm coat under paper is dry, at 21 °C and 45 % RH;
 * `rewets`: how much the dry film softens in water (0 not at all, 1 fully).
 */
export const Medium = v.object({
  id,
  name,
  openMin: v.pipe(v.number(), v.minValue(0.1), v.maxValue(120)),
  dryHours: v.pipe(v.number(), v.minValue(0.1), v.maxValue(240)),
  rewets: share,
  grip: share,
  densityGPerMl: v.pipe(v.number(), v.minValue(0.3), v.maxValue(3)),
  jarMl: v.pipe(v.number(), v.minValue(1)),
  jarPrice: money,
});

/** What the picture ends up on. `thirst`: how fast it drinks water (0 glazed, 1 raw end grain). */
export const Substrate = v.object({
  id,
  name,
  thirst: share,
  gloss: share,
  texture: v.picklist(['grain', 'weave', 'slate', 'smooth']),
  colour,
  pricePerDm2: money,
});

/** What is done to the substrate first. `thirstTimes` and `glossTimes` multiply the substrate's own. */
export const Preparation = v.object({
  id,
  name,
  thirstTimes: v.pipe(v.number(), v.minValue(0), v.maxValue(2)),
  glossTimes: v.pipe(v.number(), v.minValue(0), v.maxValue(2)),
  whitens: share,
  minutes: v.pipe(v.number(), v.minValue(0)),
  waitHours: v.pipe(v.number(), v.minValue(0)),
  dust: v.boolean(),
});

export const Shelf = v.object({
  printers: v.array(Printer),
  donors: v.array(Donor),
  mediums: v.array(Medium),
  substrates: v.array(Substrate),
  preparations: v.array(Preparation),
});

export type Printer = v.InferOutput<typeof Printer>;
export type Donor = v.InferOutput<typeof Donor>;
export type Medium = v.InferOutput<typeof Medium>;
export type Substrate = v.InferOutput<typeof Substrate>;
export type Preparation = v.InferOutput<typeof Preparation>;
/** Everything a maker keeps. */
export type Shelf = v.InferOutput<typeof Shelf>;
