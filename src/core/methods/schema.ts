import * as v from 'valibot';
import { FACTOR_KEYS, OPTION_KEYS, WEAR_TESTS } from '../factors/index.ts';
import { KeptWords } from '../say/schema.ts';
import { COLOURANTS, DONOR_KINDS, MEDIUM_KINDS, SUBSTRATE_KINDS } from '../shelf/index.ts';
import { DOES } from './deeds.ts';

const id = v.pipe(v.string(), v.regex(/^[a-z0-9-]{1,40}$/));
const words = (most: number) =>
  v.pipe(v.string(), v.trim(), v.minLength(1, 'Write something here.'), v.maxLength(most));
/** Words that may have numbers in them: a maker's own have none. */
const told = (most: number) =>
  v.pipe(
    KeptWords(most),
    v.transform(said => (typeof said === 'string' ? said.trim() : said)),
    v.check(said => said !== '', 'Write something here.'),
  );
const minutes = v.pipe(
  v.number('Write a number of minutes.'),
  v.minValue(0, 'A time cannot be below 0.'),
  v.maxValue(100_000, 'That is too long.'),
);
const times = v.pipe(v.number(), v.minValue(0.01), v.maxValue(50));

export const CAUTION_IDS = [
  'wet-coats',
  'long-rubbing',
  'sanding',
  'cutting',
  'products',
  'solvent',
  'two-part',
  'etching',
  'oven',
  'hot-tools',
  'wax',
  'after-solvent',
] as const;

/**
 * The wait between a step and the next one, in minutes from the step's end. `open-time` takes its end from the
 * medium and the ground, `planned` its aim from the plan's waiting time (times `lo` to `hi`), `preparation` and
 * `finish` from what the shelf says of those.
 */
export const Wait = v.variant('kind', [
  v.object({ kind: v.literal('none') }),
  v.pipe(
    v.object({
      kind: v.literal('fixed'),
      min: minutes,
      aim: minutes,
      max: minutes,
      /** Something dries in it, so that it follows the air; otherwise it cools, or holds, whatever the air. */
      dries: v.optional(v.boolean(), false),
    }),
    v.check(
      w => w.min <= w.aim && w.aim <= w.max,
      'Not before, best and not after have to follow one another.',
    ),
  ),
  v.object({ kind: v.literal('open-time') }),
  v.object({
    kind: v.literal('planned'),
    lo: times,
    hi: times,
    /** A wet coat dries in it in the room's air; without a word on it, as the method's other traits have it. */
    dries: v.optional(v.boolean()),
  }),
  v.object({ kind: v.literal('preparation') }),
  v.object({ kind: v.literal('finish') }),
]);

/** Which of the method's own choices something belongs to: option → ids. */
const When = v.record(v.picklist(OPTION_KEYS), v.array(id));

/** One action of a method and the wait after it. */
export const Step = v.object({
  id,
  /** What it does: what engines go by. */
  does: v.picklist(DOES, 'Choose what this step does.'),
  /** A verb: what the button says. */
  action: words(40),
  done: words(40),
  instruction: told(400),
  check: v.optional(words(200)),
  handsOnMin: minutes,
  wait: Wait,
  tooSoon: v.optional(words(200)),
  tooLate: v.optional(words(200)),
  /** What shows on the piece that the wait is over, where it is not the medium’s own drying: asked on the drying line. */
  ready: v.optional(words(200)),
  cautions: v.pipe(v.array(v.picklist(CAUTION_IDS)), v.maxLength(CAUTION_IDS.length)),
  /** Which wear test it is, for the steps of those. */
  wears: v.optional(v.picklist(WEAR_TESTS)),
  /** Hands stay with it until the wait after it is over: burnishing, ironing, pressing. */
  holds: v.optional(v.boolean(), false),
  /** A face-down contact that leaves the picture behind: it turns the picture over once. */
  reverses: v.optional(v.boolean(), false),
  /** Sheets that lie face up at this step all the same: with them it turns nothing over. */
  faceUp: v.optional(v.array(v.picklist(DONOR_KINDS)), []),
  /** Comes again in every rubbing round. */
  eachRound: v.optional(v.boolean(), false),
  /** Not before this round. */
  fromRound: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(20)), 1),
  /** Left out when the patch's preparation is "nothing". */
  onlyIfPrepared: v.optional(v.boolean(), false),
  /** Left out when the patch gets no finish. */
  onlyIfFinished: v.optional(v.boolean(), false),
  /** Only with these of the method's choices. */
  only: v.optional(When),
  /** Other words under other choices. */
  variants: v.optional(
    v.pipe(
      v.array(
        v.object({
          when: When,
          /** Only with mediums of these kinds. */
          mediums: v.optional(v.array(v.picklist(MEDIUM_KINDS))),
          action: v.optional(words(40)),
          done: v.optional(words(40)),
          instruction: told(400),
        }),
      ),
      v.maxLength(20),
    ),
    [],
  ),
});

const Choice = v.object({
  id,
  name: words(60),
  says: v.optional(told(300)),
  /** With this choice the rounds are not repeated. */
  once: v.optional(v.boolean(), false),
});

const Options = v.object({
  coatWhere: v.optional(v.pipe(v.array(Choice), v.maxLength(20)), []),
  removal: v.optional(v.pipe(v.array(Choice), v.maxLength(20)), []),
  water: v.optional(v.pipe(v.array(Choice), v.maxLength(20)), []),
  trim: v.optional(v.pipe(v.array(Choice), v.maxLength(20)), []),
});

export const REMOVALS = ['rub', 'soak', 'peel', 'pull', 'dissolve', 'none'] as const;

/** What is special about a method, for rules and for the check of pictures. */
export const TRAITS = [
  'bed of paint',
  'needs a closed ground',
  'simple pictures only',
  'strips of tape',
  'sheet of tissue',
  'paint is the colour',
  'paint is the picture',
] as const;

/** A way of transferring (docs/HANDBOOK.md §3) as data. */
export const Method = v.object({
  id,
  name: words(80),
  summary: words(300),
  /** The method it was copied from; none for those that come with Wet Test. */
  copiedFrom: v.optional(v.nullable(id), null),
  /** What it is meant for; rules speak up about anything else. */
  takes: v.object({
    colourants: v.array(v.picklist(COLOURANTS)),
    donors: v.array(v.picklist(DONOR_KINDS)),
    mediums: v.array(v.picklist(MEDIUM_KINDS)),
    substrates: v.array(v.picklist(SUBSTRATE_KINDS)),
  }),
  /** Printed mirrored, by the count of the steps that turn the picture over. In a trial: as its sheets were printed. */
  mirror: v.boolean(),
  mirrorReason: words(400),
  /** What else decides which way round it is seen. */
  mirrorNote: v.optional(words(200)),
  /** What the wait that can be planned is called. */
  waitName: words(60),
  /** What may be varied from patch to patch. */
  vary: v.array(v.picklist(FACTOR_KEYS)),
  options: Options,
  removal: v.picklist(REMOVALS),
  /** Bare substrate needed all round the picture, mm. */
  aroundMm: v.pipe(v.number(), v.minValue(0), v.maxValue(100)),
  traits: v.optional(v.array(v.picklist(TRAITS)), []),
  usesHeat: v.boolean(),
  usesWater: v.boolean(),
  /** Levels that a plan from nothing starts with; without it the first mediums and half and twice the usual wait. */
  start: v.optional(
    v.object({
      mediums: v.array(v.picklist(MEDIUM_KINDS)),
      dryHours: v.array(v.pipe(v.number(), v.minValue(0), v.maxValue(1000))),
    }),
  ),
  /** Starting values that fit this method. */
  usual: v.object({
    coatMm: v.pipe(v.number(), v.minValue(0), v.maxValue(20)),
    dryHours: v.pipe(v.number(), v.minValue(0), v.maxValue(1000)),
    rounds: v.pipe(v.number(), v.minValue(0), v.maxValue(20)),
    medium: v.picklist(MEDIUM_KINDS),
    donor: v.picklist(DONOR_KINDS),
    substrate: v.picklist(SUBSTRATE_KINDS),
    colourant: v.picklist(COLOURANTS),
    pressing: v.optional(v.string(), ''),
    rubTool: v.optional(v.string(), ''),
  }),
  steps: v.pipe(v.array(Step), v.minLength(1, 'A method needs at least one step.'), v.maxLength(40)),
  setUpCautions: v.array(v.picklist(CAUTION_IDS)),
  finish: words(300),
  care: words(300),
  /** Where makers disagree: both sides, and the choice in this method that decides it. */
  schools: v.array(
    v.object({ about: words(80), one: words(200), other: words(200), factor: v.picklist(FACTOR_KEYS) }),
  ),
});

export type Wait = v.InferOutput<typeof Wait>;
export type Step = v.InferOutput<typeof Step>;
export type Method = v.InferOutput<typeof Method>;
/** A method as it is written down: whether it is mirrored follows from its steps. */
export type MethodInput = Omit<v.InferInput<typeof Method>, 'mirror' | 'mirrorReason'>;
export type StepInput = v.InferInput<typeof Step>;
export type CautionId = (typeof CAUTION_IDS)[number];
