import * as v from 'valibot';
import {
  Air,
  Compared,
  Corners,
  DESIGNS,
  FACTOR_KEYS,
  Factor,
  INTENTS,
  MOST_PICTURES,
  MOST_PIECES,
  OUTLINES,
  Piece,
  PlanPicture,
  Usual,
  WEAR_TESTS,
} from '../trial/index.ts';

/** A length, mm; where it is too small or too large, its message is its name ({@link checkRequest} says the rest). */
const size = (name: string, lo: number, hi: number) =>
  v.pipe(v.number(`Give ${name} as a number.`), v.minValue(lo, name), v.maxValue(hi, name));
const index = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7));

/** The longest side a board may have, mm. */
export const MOST_SIDE_MM = 3000;

/** What the maker asks for; {@link planTrial} turns it into a plan. */
export const PlanRequest = v.object({
  name: v.pipe(
    v.string(),
    v.trim(),
    v.minLength(1, 'Give the trial a name.'),
    v.maxLength(80, 'Shorten the name to 80 letters.'),
  ),
  question: v.pipe(v.string(), v.maxLength(400, 'Shorten the question to 400 letters.')),
  intent: v.picklist(INTENTS),
  method: v.string(),
  seed: v.pipe(v.number(), v.integer()),
  patchMm: size('the patch', 20, 100),
  /** Its height, where it is not square. */
  patchTallMm: v.optional(size('the patch’s height', 20, 100)),
  gutterMm: size('the gutter', 8, 100),
  marginMm: size('the margin', 3, 200),
  board: v.object({
    w: size('the board’s width', 30, MOST_SIDE_MM),
    h: size('the board’s height', 30, MOST_SIDE_MM),
    outline: v.picklist(OUTLINES),
    corners: v.optional(Corners),
    onePiece: v.boolean(),
  }),
  /** Pieces of their own that carry patches too: they are filled before the boards. */
  pieces: v.optional(
    v.pipe(
      v.array(
        v.object({
          ...Piece.entries,
          w: size('the piece’s width', 30, MOST_SIDE_MM),
          h: size('the piece’s height', 30, MOST_SIDE_MM),
        }),
      ),
      v.maxLength(MOST_PIECES, `At most ${MOST_PIECES} pieces of their own.`),
    ),
  ),
  factors: v.pipe(
    v.array(Factor),
    v.minLength(1, 'Choose at least one thing to vary.'),
    v.maxLength(8, 'Vary at most eight things at once.'),
  ),
  usual: Usual,
  /** What is usual in the other methods that the factor “method” names. */
  compared: v.optional(v.pipe(v.array(Compared), v.maxLength(7))),
  picture: v.optional(v.string()),
  pictures: v.optional(
    v.pipe(v.array(PlanPicture), v.maxLength(MOST_PICTURES, `At most ${MOST_PICTURES} pictures.`)),
  ),
  repeats: v.pipe(
    v.number('Write how often each is made.'),
    v.integer('Repeats are whole numbers.'),
    v.minValue(1, 'Make each at least once.'),
    v.maxValue(10, 'At most 10 repeats.'),
  ),
  air: Air,
  design: v.picklist(DESIGNS),
  /** How many patches the maker can afford, for the best fraction. */
  budget: v.pipe(
    v.number('Write how many patches you can afford.'),
    v.integer('Patches are whole numbers.'),
    v.minValue(2, 'Two patches are the least.'),
    v.maxValue(400, 'At most 400 patches.'),
  ),
  interactions: v.array(v.tuple([index, index])),
  stripKey: v.nullable(v.picklist(FACTOR_KEYS)),
  groupKey: v.nullable(v.picklist(FACTOR_KEYS)),
  /** How many pieces an oven, a pot or a tray takes at once; null when each is made by itself. */
  loadSize: v.nullable(
    v.pipe(
      v.number('Write how many pieces a load holds.'),
      v.integer('Pieces are whole numbers.'),
      v.minValue(2, 'A load holds at least two pieces; with one there are no loads.'),
      v.maxValue(100, 'At most 100 pieces in a load.'),
    ),
  ),
  control: v.boolean(),
  overrides: v.array(v.string()),
  wear: v.array(v.picklist(WEAR_TESTS)),
  noise: v.pipe(
    v.number('Write how much alike patches differ, in points.'),
    v.minValue(0.1, 'Patches always differ a little: at least 0.1 points.'),
    v.maxValue(60, 'At most 60 points.'),
  ),
});
export type PlanRequest = v.InferOutput<typeof PlanRequest>;
