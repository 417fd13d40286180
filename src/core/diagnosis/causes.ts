import type { CautionId } from '../methods/index.ts';
import { mm, say, type Words } from '../say/index.ts';
import type { SignalKey } from './signals.ts';

/** A statement that is met when the signal is above and/or below; `{}` in the words is the signal's value. */
export interface LikelihoodRatio {
  readonly signal: SignalKey;
  readonly above?: number;
  readonly below?: number;
  /** Natural log of how much likelier this is when the cause is at work than when it is not. */
  readonly weight: number;
  readonly say: string;
}

/** A signal that has to be known and above or below a value. */
export type Gate = { readonly signal: SignalKey; readonly above?: number; readonly below?: number };

/** A cause of failure (docs/HANDBOOK.md §8) with its tell-tales, what rescues the patch and what prevents it. */
export interface Cause {
  readonly id: string;
  readonly name: string;
  /** Prior log odds. */
  readonly prior: number;
  /** What has to hold for it to come into question at all: a pull cannot be too late where nothing is pulled. */
  readonly only?: readonly Gate[];
  readonly evidence: readonly LikelihoodRatio[];
  readonly check: string;
  readonly rescue: string;
  readonly prevent: Words;
  /** What can hurt in what is to be done now or next time. */
  readonly cautions?: readonly CautionId[];
  /** What a trial would change to confirm it; nothing where no choice of a plan does, only the hand. */
  readonly confirm?: Change;
  /** Other words where the sheet comes off in another way: the first that holds. */
  readonly otherwise?: readonly (Partial<Said> & { readonly when: readonly Gate[] })[];
}

/**
 * The one thing to change to find out whether a cause was at work: a number so many times what it was, or another of what
 * the shelf has, the kinds named first.
 */
export type Change =
  | { readonly factor: 'dryHours' | 'coatMm' | 'rounds'; readonly times: number }
  | {
      readonly factor: 'preparation' | 'water' | 'donor' | 'printer' | 'pressing' | 'trim' | 'substrate';
      readonly kinds?: readonly string[];
    };

/** What a cause says there is to look at, to do now, and to do next time. */
type Said = Pick<Cause, 'check' | 'rescue' | 'prevent' | 'cautions'>;

/** Nothing much is bare: speaks against whatever takes the picture off. */
export const bareLittle = (weight = -2.5): LikelihoodRatio => ({
  signal: 'bareShare',
  below: 0.03,
  weight,
  say: 'Almost nothing is bare.',
});

const WET: Gate = { signal: 'usesWater', above: 0 };
const MEDIUM: Gate = { signal: 'medium', above: 0 };
const REMOVED: Gate = { signal: 'removed', above: 0 };
const BRUSHED: Gate = { signal: 'brushed', above: 0 };
const RUBBED: Gate = { signal: 'rubs', above: 0 };
const UNRUBBED: Gate = { signal: 'rubs', below: 1 };
/** Held by heat. */
export const HEATED: Gate = { signal: 'usesHeat', above: 0 };
/** Pulled off a wet film in one go. */
export const PULLED: Gate = { signal: 'pulled', above: 0 };
export const SOLVENT: Gate = { signal: 'solvent', above: 0 };
const WETTED: Gate = { signal: 'wets', above: 0 };
/**
 * Rungs of the same ladder that went better, whatever else they share, and how much that speaks for a cause where they
 * waited longer, and where they waited less.
 */
export const otherRungs = (longer: number, less: number): LikelihoodRatio[] => [
  {
    signal: 'laterBetter',
    above: 0.15,
    weight: longer,
    say: 'Patches of this trial that waited longer landed {} more of the picture.',
  },
  {
    signal: 'earlierBetter',
    above: 0.15,
    weight: less,
    say: 'Patches of this trial that waited less landed {} more of the picture.',
  },
];

/** Causes around coats, water and paper, which most methods share. */
export const COMMON_CAUSES: readonly Cause[] = [
  {
    id: 'air-bubbles',
    name: 'Air bubbles or poor contact',
    prior: -2,
    confirm: { factor: 'pressing' },
    evidence: [
      { signal: 'skip:burnish', above: 0, weight: 1.4, say: 'It was not pressed down.' },
      { signal: 'roundShare', above: 0.35, weight: 2.2, say: 'Much of the bare area is round spots.' },
      { signal: 'roundShare', below: 0.05, weight: -1.5, say: 'None of the bare patches is round.' },
      { signal: 'edgeShare', above: 0.5, weight: -0.8, say: 'The loss sits at the edge, not in the middle.' },
      { signal: 'bareShare', above: 0.35, weight: -1.2, say: 'Too much is lost for bubbles alone.' },
      { signal: 'symptom:bare-patches', above: 0, weight: 0.4, say: 'You ticked bare patches.' },
      bareLittle(),
    ],
    check: 'Hold the next one to the light before it dries: bubbles show as pale discs.',
    rescue: 'Touch the spots up by hand with a fine pen or paint.',
    prevent: 'Press from the centre out, both ways, with a roller or an old card.',
  },
  {
    id: 'skinned-over',
    name: 'The coat skinned over or had dry spots',
    prior: -2,
    confirm: { factor: 'coatMm', times: 1.5 },
    only: [BRUSHED],
    evidence: [
      { signal: 'streakShare', above: 0.25, weight: 1.6, say: 'Bare streaks, as a brush leaves them.' },
      { signal: 'streakLevel', above: 0.7, weight: 0.7, say: 'The streaks run the same way.' },
      {
        signal: 'lateRatio',
        above: 1,
        weight: 2.2,
        say: 'It was placed after the coat’s open time had passed ({} of it).',
      },
      {
        signal: 'lateRatio',
        above: 0.7,
        below: 1.0001,
        weight: 0.8,
        say: 'It was placed late in the coat’s open time ({} of it).',
      },
      {
        signal: 'lateRatio',
        below: 0.45,
        weight: -1.6,
        say: 'It was placed while the coat was fresh ({} of its open time).',
      },
      {
        signal: 'thirst',
        above: 0.5,
        weight: 0.4,
        say: 'The ground is thirsty and pulls the water out of the coat.',
      },
      bareLittle(),
    ],
    check: 'Look along the wet coat before placing: dull places have skinned over.',
    rescue: 'None for the picture. Touch up, or take it as worn.',
    prevent: 'Coat a smaller area at a time, a little thicker, and place sooner.',
  },
  {
    id: 'too-thick',
    name: 'Coat too thick, squeezed out onto the paper',
    prior: -2.8,
    confirm: { factor: 'coatMm', times: 0.5 },
    only: [BRUSHED],
    evidence: [
      { signal: 'coatRatio', above: 1.5, weight: 1.4, say: 'The coat was {} times as thick as is usual.' },
      {
        signal: 'coatRatio',
        below: 1.2,
        weight: -1.2,
        say: 'The coat was no thicker than is usual ({} of it).',
      },
      { signal: 'symptom:halo', above: 0, weight: 1.4, say: 'There is a halo round the picture.' },
      { signal: 'symptom:milky', above: 0, weight: 1.2, say: 'The medium is still milky.' },
      {
        signal: 'symptom:stuck-paper',
        above: 0,
        weight: 1.2,
        say: 'Paper is stuck in islands: medium on its back keeps water out.',
      },
      { signal: 'symptom:wrinkle', above: 0, weight: 0.9, say: 'It has wrinkled.' },
    ],
    check: 'Feel the rim: a glossy ridge is squeezed-out medium.',
    cautions: ['long-rubbing'],
    rescue: 'Lift the skin on the islands with a fingernail, then wet and rub again.',
    prevent: 'Thinner coat; wipe what squeezes out before it dries; keep the paper’s back clean.',
    otherwise: [
      {
        when: [UNRUBBED],
        cautions: ['cutting'],
        rescue:
          'Leave it: what is milky or soft only needs time. Trim a hard ridge with a blade, away from the hand.',
        prevent: 'Thinner coat; wipe what squeezes out before it dries.',
      },
    ],
  },
  {
    id: 'edge-not-sealed',
    name: 'Edge not sealed, or the ground dips there',
    prior: -2.2,
    confirm: { factor: 'coatMm', times: 1.5 },
    only: [MEDIUM],
    evidence: [
      { signal: 'skip:burnish', above: 0, weight: 0.7, say: 'It was not pressed down.' },
      { signal: 'edgeShare', above: 0.35, weight: 2, say: 'The loss is a band along an edge.' },
      { signal: 'cornerShare', above: 0.3, weight: 1.3, say: 'A corner is lost.' },
      { signal: 'edgeLoss', above: 0.25, weight: 1, say: 'One side lost far more than the whole.' },
      { signal: 'edgeLoss', below: 0.05, weight: -1.6, say: 'The sides are no worse than the middle.' },
      { signal: 'bareShare', above: 0.15, weight: -1.4, say: 'More is lost than the band of an edge.' },
      { signal: 'bareShare', above: 0.3, weight: -1, say: 'Far more is lost than all edges hold.' },
      { signal: 'symptom:lifting-edge', above: 0, weight: 1.2, say: 'An edge lifts.' },
      { signal: 'coatMm', below: 0.25, weight: 0.5, say: 'The coat was thin ({}).' },
      bareLittle(-1.5),
    ],
    check: 'Lay a ruler across the place: does light show at the edge?',
    cautions: ['wet-coats'],
    rescue: 'Glue the lifting edge down with a little medium under a brush.',
    prevent: say`Coat ${mm(2)} beyond the picture and press the edges last.`,
  },
  {
    id: 'glossy-ground',
    name: 'Ground glossy or greasy',
    prior: -2.6,
    confirm: { factor: 'preparation', kinds: ['etch', 'sand', 'degrease', 'white base coat', 'primer'] },
    evidence: [
      { signal: 'skip:prepare', above: 0, weight: 1.2, say: 'The ground was not prepared.' },
      { signal: 'gloss', above: 0.4, weight: 2, say: 'The ground was still glossy.' },
      { signal: 'gloss', below: 0.2, weight: -2, say: 'The ground is dull.' },
      {
        signal: 'brushed',
        below: 1,
        weight: -1.6,
        say: 'Nothing was brushed on that needs a tooth to hold.',
      },
      { signal: 'largestBareMm2', above: 60, weight: 1, say: 'One large clean piece is missing ({}).' },
      { signal: 'symptom:rolled-off', above: 0, weight: 1.1, say: 'It came away as a film.' },
      { signal: 'bareShare', above: 0.4, weight: 0.7, say: 'A large part is lost.' },
      bareLittle(),
    ],
    check: 'Tilt the bare ground against a lamp: highlights mean gloss.',
    cautions: ['sanding', 'solvent'],
    rescue: 'None. Clean it off and start again.',
    prevent: 'Sand dull, degrease, and check in raking light before coating.',
  },
  {
    id: 'thirsty-ground',
    name: 'Ground too thirsty',
    prior: -2.5,
    confirm: { factor: 'preparation', kinds: ['primer', 'white base coat', 'matching base coat'] },
    only: [BRUSHED],
    evidence: [
      { signal: 'skip:prepare', above: 0, weight: 1, say: 'The ground was not prepared.' },
      { signal: 'skip:base', above: 0, weight: 0.8, say: 'The base coat was left out.' },
      { signal: 'thirst', above: 0.5, weight: 1.1, say: 'The ground drinks.' },
      { signal: 'thirst', below: 0.3, weight: -2, say: 'The ground does not drink.' },
      { signal: 'coatMm', below: 0.35, weight: 0.7, say: 'The coat was thin for it ({}).' },
      { signal: 'raggedShare', above: 0.5, weight: 0.6, say: 'The loss is ragged and patchy.' },
      { signal: 'symptom:faint', above: 0, weight: 0.8, say: 'The picture is faint.' },
      ...otherRungs(-1.6, -1.6),
      bareLittle(-1.5),
    ],
    check: 'Put a drop of water on the bare ground: gone within a minute is too thirsty.',
    rescue: 'Go over it with a tinted wax, or take it as worn.',
    prevent: 'Prime the ground, or give it a first thin coat and let it dry.',
  },
  {
    id: 'too-early',
    name: 'Removed too early',
    prior: -1.8,
    confirm: { factor: 'dryHours', times: 2 },
    only: [REMOVED],
    evidence: [
      { signal: 'smear', above: 0.1, weight: 0.7, say: 'It has smeared ({}).' },
      {
        signal: 'waitRatio',
        below: 0.75,
        weight: 2.4,
        say: 'It had {} of the wait that was planned.',
      },
      {
        signal: 'waitRatio',
        above: 0.95,
        weight: -2,
        say: 'It had all of the wait that was planned ({} of it).',
      },
      {
        signal: 'dryRatio',
        below: 0.7,
        weight: 2.6,
        say: 'It had only {} of the drying time that this medium needs in this air.',
      },
      {
        signal: 'dryRatio',
        above: 0.7,
        below: 0.9,
        weight: 0.7,
        say: 'It had {} of the drying time it needs: a little short.',
      },
      {
        signal: 'dryRatio',
        above: 1.1,
        weight: -2.4,
        say: 'It dried longer than it needs in this air ({} of it).',
      },
      { signal: 'raggedShare', above: 0.4, weight: 0.6, say: 'The loss is large and ragged.' },
      { signal: 'bareShare', above: 0.25, weight: 0.6, say: 'Much is lost.' },
      { signal: 'usesHeat', above: 0, weight: -0.8, say: 'It holds by heat, not by drying.' },
      { signal: 'pressRatio', above: 0.95, weight: -1.2, say: 'It was held for all of its time ({} of it).' },
      { signal: 'symptom:rolled-off', above: 0, weight: 1.5, say: 'The picture rolled off with the paper.' },
      { signal: 'symptom:milky', above: 0, weight: 1, say: 'The medium is still milky.' },
      { signal: 'symptom:tacky', above: 0, weight: 1, say: 'It is tacky.' },
      ...otherRungs(2.4, -2),
      bareLittle(),
    ],
    check: 'Is the medium clear and cool-dry to the touch at a corner?',
    rescue: 'Stop. Let it dry through, then go on.',
    prevent: 'Wait longer, or warm and dry the room. Damp air can turn one day into four.',
    otherwise: [
      {
        when: [HEATED],
        check: 'Lift a corner: does the sheet still hold where it was warm?',
        rescue: 'Lay it down again and give it the rest of its heat.',
        prevent: 'Hold it for the whole of its time, and let it cool as the method says before you lift.',
      },
      {
        when: [PULLED],
        check: 'Is it still wet and shining where it was pulled off?',
        rescue: 'None for this one: let it dry flat as it is, and touch up what ran.',
        prevent:
          'Give it some seconds more before the pull. The wait is short and moves with the air: find it on scrap that day.',
      },
      {
        when: [SOLVENT],
        check: 'Did it run or smear where the sheet let go?',
        rescue: 'Lay it flat and let it dry, and see whether you like it painterly.',
        prevent: 'Leave the sheet a few seconds longer, and smooth it from the middle first.',
      },
    ],
  },
  {
    id: 'too-much-water',
    name: 'Too much water: the film went soft',
    prior: -2.5,
    confirm: { factor: 'water', kinds: ['damp'] },
    only: [WET],
    evidence: [
      { signal: 'smear', above: 0.1, weight: 1.1, say: 'It has smeared ({}).' },
      { signal: 'rewets', above: 0.5, weight: 1.7, say: 'This medium softens again in water.' },
      { signal: 'rewets', below: 0.12, weight: -1.2, say: 'This medium hardly softens in water.' },
      { signal: 'wetMin', above: 8, weight: 1.2, say: 'It stayed wet for {} before rubbing.' },
      { signal: 'raggedShare', above: 0.4, weight: 0.4, say: 'Scuffs all over.' },
      { signal: 'symptom:base-damaged', above: 0, weight: 1.6, say: 'The base coat is damaged.' },
      { signal: 'symptom:smear', above: 0, weight: 0.9, say: 'It smeared.' },
      bareLittle(),
    ],
    check: 'Press a wet spot with a fingernail: does it dent?',
    rescue: 'Stop, let it dry, and go on with less water.',
    prevent: 'Dampen, do not soak; or take a medium that stands water.',
  },
  {
    id: 'too-little-water',
    name: 'Too little water: the paper tore in dry islands',
    prior: -3,
    confirm: { factor: 'water', kinds: ['soaked'] },
    only: [WET, WETTED],
    evidence: [
      { signal: 'skip:wet', above: 0, weight: 2, say: 'It was not wetted.' },
      { signal: 'wetMin', below: 0.7, weight: 1.5, say: 'It was rubbed {} after wetting.' },
      { signal: 'symptom:stuck-paper', above: 0, weight: 1.4, say: 'Paper will not come off.' },
      { signal: 'veil', above: 0.3, weight: 0.6, say: 'Much paper is left (veil {}).' },
      { signal: 'veil', below: 0.1, weight: -1.5, say: 'Hardly any paper is left.' },
    ],
    check: 'Is the paper dark all over when wet?',
    cautions: ['long-rubbing'],
    rescue: 'Wet it again, wait two minutes, rub on.',
    prevent: 'Wet until the print shows through everywhere before you rub.',
    otherwise: [
      {
        when: [UNRUBBED],
        cautions: [],
        rescue: 'Wet it where it holds, wait two minutes, go on slowly.',
        prevent: 'Wet the back all over and give it its minutes; wet again where it holds.',
      },
    ],
  },
  {
    id: 'rubbed-too-hard',
    name: 'Rubbed too hard or too long',
    prior: -2.5,
    confirm: { factor: 'rounds', times: 0.5 },
    only: [WET, RUBBED],
    evidence: [
      { signal: 'symptom:rubbed-through', above: 0, weight: 2.2, say: 'You ticked rubbed through.' },
      { signal: 'rounds', above: 3, weight: 1.1, say: 'It had {} of rubbing.' },
      { signal: 'rounds', below: 2, weight: -0.8, say: 'It was rubbed only once.' },
      { signal: 'veil', below: 0.06, weight: 0.5, say: 'No paper is left to rub.' },
      {
        signal: 'veil',
        above: 0.25,
        weight: -1.4,
        say: 'There is still paper on it (veil {}), so it was not rubbed too long.',
      },
      bareLittle(),
    ],
    check: 'Is the bare ground shiny, and worst on the high spots?',
    rescue: 'Touch up; stop rubbing when colour shows on the finger.',
    prevent: 'Softer tool, less pressure, more rounds with drying between.',
  },
  {
    id: 'not-enough-rounds',
    name: 'Not enough rounds, or judged while wet',
    prior: -2,
    confirm: { factor: 'rounds', times: 2 },
    only: [WET],
    evidence: [
      {
        signal: 'roundDryH',
        below: 0.5,
        weight: 0.6,
        say: 'It dried only {} between rounds: paper shows only when dry.',
      },
      { signal: 'veil', above: 0.2, weight: 2.4, say: 'There is a clear veil ({}).' },
      { signal: 'veil', above: 0.08, below: 0.2001, weight: 1.3, say: 'There is some veil ({}).' },
      { signal: 'veil', below: 0.06, weight: -3, say: 'There is hardly any veil ({}).' },
      { signal: 'rounds', below: 2, weight: 0.9, say: 'It had one round of rubbing.' },
      { signal: 'rounds', above: 2, weight: -0.6, say: 'It had {}.' },
      {
        signal: 'veilDrop',
        above: 0.05,
        weight: 0.7,
        say: 'The last round took {} of veil off, so another should help.',
      },
      {
        signal: 'judgedWet',
        above: 0,
        weight: 0.5,
        say: 'The photo is of a wet patch; paper shows only when dry.',
      },
      { signal: 'symptom:veil', above: 0, weight: 1.4, say: 'You ticked white veil.' },
    ],
    check: 'Wet a corner: if the white goes away and comes back on drying, it is paper.',
    cautions: ['long-rubbing', 'wet-coats'],
    rescue: 'Wet it and rub again. Oil or varnish hides a little that is left.',
    prevent: 'Plan one round more, and look only when it is dry.',
    otherwise: [
      {
        when: [UNRUBBED],
        check: 'Wet a corner: if the white goes away and comes back on drying, it is fibres.',
        cautions: [],
        rescue: 'Brush water on again and let what is left float off; add water, not force.',
        prevent: 'Give it more water and more time, and look only when it is dry.',
      },
    ],
  },
  {
    id: 'wrong-paper',
    name: 'Wrong paper for rubbing',
    prior: -2.8,
    confirm: { factor: 'donor' },
    only: [WET, RUBBED],
    evidence: [
      { signal: 'coated', above: 0, weight: 2, say: 'The sheet has a gloss coat, which lets go as a whole.' },
      { signal: 'gsm', above: 100, weight: 1, say: 'Heavy paper ({}) leaves more behind.' },
      { signal: 'gsm', below: 90, weight: -1.4, say: 'The paper is thin ({}).' },
      { signal: 'veil', above: 0.2, weight: 0.8, say: 'Much paper is left (veil {}).' },
      { signal: 'symptom:veil', above: 0, weight: 0.5, say: 'You ticked white veil.' },
      { signal: 'symptom:stuck-paper', above: 0, weight: 0.7, say: 'Paper will not come off.' },
      { signal: 'symptom:rolled-off', above: 0, weight: 0.8, say: 'It came away as a whole.' },
    ],
    check: 'Does a thin copy paper behave the same?',
    cautions: ['long-rubbing'],
    rescue: 'More rounds, patiently.',
    prevent: 'Take thin uncoated copy paper.',
  },
  {
    id: 'wrong-colourant',
    name: 'Wrong colourant for this method',
    prior: -3,
    confirm: { factor: 'printer' },
    evidence: [
      { signal: 'smear', above: 0.1, weight: 0.9, say: 'Colour has run ({}).' },
      { signal: 'stain', above: 0.05, weight: 0.6, say: 'There is colour where the picture has none ({}).' },
      {
        signal: 'colourantFits',
        below: 0.5,
        weight: 4,
        say: 'This method is made for another colourant than this printer’s.',
      },
      {
        signal: 'colourantFits',
        above: 0.5,
        weight: -3,
        say: 'The colourant is one that this method is made for.',
      },
      { signal: 'symptom:smear', above: 0, weight: 1, say: 'Colour ran.' },
    ],
    check: 'Wet a spare print with a finger: does the colour run?',
    rescue: 'None.',
    prevent: 'Print with what the method is made for.',
  },
  {
    id: 'pale-original',
    name: 'Pale original, or thin toner',
    prior: -2.8,
    evidence: [
      { signal: 'pale', above: 0.6, weight: 1.4, say: 'The picture is pale ({} of it light).' },
      { signal: 'pale', below: 0.25, weight: -1.2, say: 'The picture is not pale.' },
      { signal: 'lowContrast', above: 0, weight: 1, say: 'The picture has little contrast.' },
      { signal: 'lightLoss', above: 0.15, weight: 2.2, say: 'Light tones lost more than dark ones.' },
      { signal: 'lightLoss', below: 0.04, weight: -1.4, say: 'Light tones held as well as dark ones.' },
      { signal: 'symptom:faint', above: 0, weight: 1, say: 'The picture is faint.' },
      { signal: 'speckleShare', above: 0.4, weight: 0.8, say: 'The loss is in fine specks.' },
    ],
    check: 'Look at the tone steps: do they break up from the light end?',
    rescue: 'Touch up the light tones.',
    prevent: 'Raise the contrast; print on full toner, not on a saving mode.',
  },
  {
    id: 'dark-ground',
    name: 'Dark or coloured ground, and printers have no white',
    prior: -2.8,
    confirm: { factor: 'preparation', kinds: ['white base coat', 'primer'] },
    evidence: [
      { signal: 'skip:base', above: 0, weight: 1, say: 'The base coat was left out.' },
      { signal: 'tone', above: 8, weight: 0.8, say: 'The tones are off by {}.' },
      { signal: 'groundLight', below: 0.25, weight: 1.6, say: 'The ground is dark.' },
      { signal: 'groundLight', above: 0.5, weight: -1.8, say: 'The ground is light.' },
      { signal: 'symptom:too-dark', above: 0, weight: 2, say: 'You ticked too dark.' },
    ],
    check: 'Are the whites of the picture exactly the colour of the ground?',
    rescue: 'Paint the whites in by hand.',
    prevent: 'Whiten the ground first, or choose a picture without light parts.',
  },
  {
    id: 'not-mirrored',
    name: 'Not mirrored',
    prior: -4,
    evidence: [
      { signal: 'mirrored', above: 0, weight: 8, say: 'The reading fits the mirror image of the target.' },
      { signal: 'mirrored', below: 0.5, weight: -3, say: 'The picture is the right way round.' },
      { signal: 'symptom:backwards', above: 0, weight: 5, say: 'You ticked backwards.' },
    ],
    check: 'Read the text on it.',
    rescue: 'None.',
    prevent:
      'Print Wet Test’s sheets as they are: they are mirrored already, so leave the printer’s mirror setting off.',
  },
  {
    id: 'dust',
    name: 'Dust or lint',
    prior: -3.2,
    evidence: [
      { signal: 'symptom:pinholes', above: 0, weight: 2.4, say: 'You ticked pinholes.' },
      { signal: 'speckleShare', above: 0.35, weight: 1.2, say: 'Much of the bare area is fine specks.' },
      { signal: 'largestBareMm2', below: 3, weight: 0.6, say: 'All bare spots are tiny.' },
      { signal: 'bareShare', above: 0.1, weight: -1.6, say: 'Too much is lost for dust.' },
    ],
    check: 'Feel for a tiny bump in the hole.',
    rescue: 'Touch up the holes with a pen.',
    prevent: 'Wipe the ground with a damp cloth and let it dry before coating.',
  },
];
