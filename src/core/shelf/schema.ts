import * as v from 'valibot';
import {
  COLOURANTS,
  DONOR_KINDS,
  FINISH_KINDS,
  MEDIUM_KINDS,
  PREPARATION_KINDS,
  RELEASES,
  SIDES,
  SUBSTRATE_KINDS,
  TOOL_KINDS,
} from './kinds.ts';

const id = v.pipe(v.string(), v.regex(/^[a-z0-9-]{1,40}$/));
const name = v.pipe(
  v.string(),
  v.trim(),
  v.minLength(1, 'Give it a name.'),
  v.maxLength(80, 'Shorten the name to 80 letters.'),
);
const note = v.optional(v.pipe(v.string(), v.maxLength(400)), '');
const number = (lo: number, hi: number) =>
  v.pipe(v.number('Write a number.'), v.minValue(lo, `At least ${lo}.`), v.maxValue(hi, `At most ${hi}.`));
const whole = (lo: number, hi: number) => v.pipe(number(lo, hi), v.integer('Write a whole number.'));
const money = number(0, 10_000);
const share = number(0, 1);
/** Linear-light RGB, 0–1. */
const colour = v.tuple([share, share, share]);
const size = v.object({ w: number(10, 5000), h: number(10, 5000) });
const day = v.optional(v.nullable(v.pipe(v.string(), v.isoDate('Write the day as 2026-05-31.'))), null);

/** What brings the colourant. `widthMm`: the widest sheet it takes; `singleSheet`: takes one odd sheet at a time. */
export const Printer = v.object({
  id,
  name,
  note,
  colourant: v.picklist(COLOURANTS),
  /** Prints in one colour only. */
  oneColour: v.optional(v.boolean(), false),
  fusesWithHeat: v.optional(v.boolean(), true),
  widthMm: v.optional(number(50, 2000), 210),
  dpi: v.optional(whole(50, 9600), 600),
  pricePerPage: money,
  mirrorSetting: v.optional(v.boolean(), false),
  /** What its 100 mm bars measured on paper, across and down; sheets are corrected by it. */
  barAcross: v.optional(number(80, 120), 100),
  barDown: v.optional(number(80, 120), 100),
  singleSheet: v.optional(v.boolean(), true),
});

/** Whether what is on hand is counted though nothing is left of it; what a maker wrote 0 for is not. */
const counted = v.optional(v.boolean());

/** The printed sheet that is given up. `gsm` is its weight in g/m²; `absorbency` 0 film to 1 blotter; `onHand` in sheets. */
export const Donor = v.object({
  id,
  name,
  note,
  kind: v.optional(v.picklist(DONOR_KINDS), 'plain paper'),
  gsm: number(10, 400),
  coated: v.optional(v.boolean(), false),
  printSide: v.optional(v.picklist(SIDES), 'either side'),
  accepts: v.optional(v.array(v.picklist(COLOURANTS)), ['toner', 'pigment ink', 'dye ink']),
  absorbency: v.optional(share, 0.6),
  releases: v.optional(v.picklist(RELEASES), 'rub'),
  clear: v.optional(v.boolean(), false),
  sheet: size,
  packSize: whole(1, 10_000),
  packPrice: money,
  onHand: v.optional(whole(0, 100_000), 0),
  counted,
  /** The code of the trial it is left of: it is printed already. */
  leftOf: v.optional(v.pipe(v.string(), v.regex(/^[0-9A-Z]{2}$/))),
});

/**
 * What glues the colourant on. `openMin`: minutes until a 0.3 mm coat turns tacky on a closed ground;
 * `dryHours`: hours until a 0.3 mm coat under paper is dry, at 21 °C and 45 % RH;
 * `rewets`: how much the dry film softens in water (0 not at all, 1 fully); `grip`: share that holds at its best;
 * `film`: whether the dry film is closed or drinks; `rollDm2`: for tapes, the area of a roll, in place of a volume.
 */
export const Medium = v.object({
  id,
  name,
  note,
  kind: v.optional(v.picklist(MEDIUM_KINDS), 'matte acrylic medium'),
  openMin: number(0.1, 120),
  dryHours: number(0.01, 240),
  rewets: share,
  grip: share,
  film: v.optional(v.picklist(['closed', 'porous']), 'closed'),
  driesClear: v.optional(v.boolean(), true),
  waterproof: v.optional(v.boolean(), true),
  flammable: v.optional(v.boolean(), false),
  sealer: v.optional(v.boolean(), false),
  densityGPerMl: number(0.3, 3),
  jarMl: number(1, 100_000),
  jarPrice: money,
  rollDm2: v.optional(number(0, 100_000), 0),
  onHandMl: v.optional(number(0, 100_000), 0),
  counted,
  /** The colour it dries to, for paints; none for what dries clear. */
  paint: v.optional(v.nullable(colour), null),
  batch: v.optional(v.pipe(v.string(), v.maxLength(40)), ''),
  opened: day,
});

/**
 * What the picture ends up on. `thirst`: how fast it drinks water (0 glazed, 1 raw end grain); `colour`: linear RGB;
 * `onePiece`: each is a carrier of its own, such as a tile, of `piece` mm; else it is cut to boards.
 */
export const Substrate = v.object({
  id,
  name,
  note,
  kind: v.optional(v.picklist(SUBSTRATE_KINDS), 'bare wood'),
  thirst: share,
  gloss: share,
  texture: v.picklist(['grain', 'weave', 'slate', 'smooth']),
  colour,
  needsPreparation: v.optional(v.boolean(), false),
  heatSafe: v.optional(v.boolean(), true),
  onePiece: v.optional(v.boolean(), false),
  piece: v.optional(size, { w: 300, h: 200 }),
  pricePerDm2: money,
});

/** What is done to the substrate first. `thirstTimes` and `glossTimes` multiply the substrate's own. */
export const Preparation = v.object({
  id,
  name,
  note,
  kind: v.optional(v.picklist(PREPARATION_KINDS), 'none'),
  thirstTimes: number(0, 2),
  glossTimes: number(0, 2),
  whitens: share,
  minutes: number(0, 1000),
  waitHours: number(0, 1000),
  dust: v.optional(v.boolean(), false),
  pricePerDm2: v.optional(money, 0),
});

/** What it is done with. `washMin`: minutes to clean it between mediums; `holds`: pieces it takes at once (an oven). */
export const Tool = v.object({
  id,
  name,
  note,
  kind: v.picklist(TOOL_KINDS),
  washMin: v.optional(number(0, 240), 0),
  holds: v.optional(whole(1, 1000), 1),
});

/** What goes on top. `coats` of `minutes` each with `waitHours` between and after them. */
export const Finish = v.object({
  id,
  name,
  note,
  kind: v.picklist(FINISH_KINDS),
  coats: v.optional(whole(0, 20), 1),
  minutes: v.optional(number(0, 240), 1),
  waitHours: v.optional(number(0, 1000), 1),
  /** The next coat no later than so many hours after one, by its label; 0 where any time later will do. */
  recoatHours: v.optional(number(0, 1000), 0),
  twoPart: v.optional(v.boolean(), false),
  flammable: v.optional(v.boolean(), false),
  pricePerDm2: v.optional(money, 0),
});

export const Shelf = v.object({
  printers: v.array(Printer),
  donors: v.array(Donor),
  mediums: v.array(Medium),
  substrates: v.array(Substrate),
  preparations: v.array(Preparation),
  tools: v.optional(v.array(Tool), []),
  finishes: v.optional(v.array(Finish), []),
});

/** The schema of one item of each kind of thing on the shelf. */
export const ITEM = {
  printers: Printer,
  donors: Donor,
  mediums: Medium,
  substrates: Substrate,
  preparations: Preparation,
  tools: Tool,
  finishes: Finish,
} as const;

export type Printer = v.InferOutput<typeof Printer>;
export type Donor = v.InferOutput<typeof Donor>;
export type Medium = v.InferOutput<typeof Medium>;
export type Substrate = v.InferOutput<typeof Substrate>;
export type Preparation = v.InferOutput<typeof Preparation>;
export type Tool = v.InferOutput<typeof Tool>;
export type Finish = v.InferOutput<typeof Finish>;
/** Everything a maker keeps. */
export type Shelf = v.InferOutput<typeof Shelf>;
export type ShelfKind = keyof typeof ITEM;
export type ShelfItem = Shelf[ShelfKind][number];
export type Colourant = Printer['colourant'];
