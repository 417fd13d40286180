import type { FactorKey } from '../factors/index.ts';
import type { Intent } from '../trial/index.ts';

/** Where the levels of a ready-made question come from. */
export type Levels =
  | { readonly from: 'kinds'; readonly groups: readonly (readonly string[] | Wanted)[] }
  | { readonly from: 'options' }
  | { readonly from: 'numbers'; readonly numbers: readonly number[] }
  | { readonly from: 'colourants'; readonly colourants: readonly string[] };

/** An item of some kind that is what a side speaks of: without it the question cannot be asked. */
export interface Wanted {
  readonly kinds: readonly string[];
  /** What it is called, for saying what is missing. */
  readonly called: string;
  readonly gsmMost?: number;
  readonly gsmLeast?: number;
  readonly twoPart?: boolean;
  readonly coatsLeast?: number;
}

/** One of the things makers disagree about (docs/HANDBOOK.md §7), as a trial that settles it on one's own bench. */
export interface Disagreement {
  readonly id: string;
  readonly ask: string;
  readonly sides: readonly string[];
  readonly method: string;
  readonly intent?: Intent;
  readonly factors: readonly { readonly key: FactorKey; readonly levels: Levels }[];
  readonly repeats: number;
  /** The factors that are what makers disagree about; the first where nothing is said. All others come along. */
  readonly about?: readonly FactorKey[];
  /** Rules that stand against one side and are set aside on purpose: the maker wants to see it. */
  readonly overrides?: readonly string[];
}

const kinds = (...groups: (readonly string[] | Wanted)[]): Levels => ({ from: 'kinds', groups });
const numbers = (...list: number[]): Levels => ({ from: 'numbers', numbers: list });
const options: Levels = { from: 'options' };

/** The twelve disagreements; each group of kinds gives one level, the first item of that kind on the shelf. */
export const DISAGREEMENTS: readonly Disagreement[] = [
  {
    id: 'which-paper',
    ask: 'Which paper?',
    sides: [
      'Thin cheap paper rubs off easily.',
      'Heavy smooth paper prints better.',
      'Coated or dissolving sheets save the rubbing.',
    ],
    method: 'wet-rub',
    factors: [
      {
        key: 'donor',
        levels: kinds(
          { kinds: ['plain paper'], gsmMost: 75, called: 'a thin plain paper of 75 g or less' },
          { kinds: ['smooth heavy paper'], gsmLeast: 100, called: 'a smooth paper of 100 g or more' },
          {
            kinds: ['quick-release paper', 'dissolving paper'],
            called: 'a coated quick-release or dissolving sheet',
          },
        ),
      },
      { key: 'rounds', levels: numbers(1, 3) },
    ],
    repeats: 2,
  },
  {
    id: 'coat-where',
    ask: 'Coat the substrate or the print? Thin or thick?',
    sides: ['On the substrate, thin and even.', 'On the print, thick enough to hide the image.'],
    method: 'wet-rub',
    factors: [
      { key: 'coatWhere', levels: options },
      { key: 'coatMm', levels: numbers(0.3, 1) },
    ],
    about: ['coatWhere', 'coatMm'],
    repeats: 3,
  },
  {
    id: 'how-long-dry',
    ask: 'How long does it have to dry?',
    sides: ['A full day, always.', 'A night will do.', 'A short set of an hour is enough.'],
    method: 'wet-rub',
    factors: [{ key: 'dryHours', levels: numbers(1, 4, 12, 24) }],
    repeats: 3,
  },
  {
    id: 'soak-or-damp',
    ask: 'Soak and clean in one go, or damp in rounds? With what?',
    sides: ['Soak once, clean once.', 'Damp only, several rounds with drying between.'],
    method: 'wet-rub',
    factors: [
      { key: 'removal', levels: options },
      { key: 'rubTool', levels: kinds(['fingers'], ['sponge'], ['cloth']) },
    ],
    about: ['removal', 'rubTool'],
    repeats: 2,
  },
  {
    id: 'fresh-copies',
    ask: 'Do only fresh copies transfer well?',
    sides: ['Only copies a few hours old let go.', 'Age does not matter.'],
    method: 'wet-rub',
    factors: [{ key: 'copyAgeH', levels: numbers(2, 24, 168) }],
    repeats: 4,
  },
  {
    id: 'alcohol-strength',
    ask: 'Does the strength of the alcohol matter?',
    sides: ['It does: the strong one bites.', 'It does not.'],
    method: 'solvent-bloom',
    intent: 'painterly',
    factors: [{ key: 'medium', levels: kinds(['rubbing alcohol'], ['rubbing alcohol']) }],
    repeats: 6,
  },
  {
    id: 'prime-or-raw',
    ask: 'Prime first, or leave it raw?',
    sides: ['Primed or whitened is brighter.', 'Raw lets the grain show.', 'It depends on the primer.'],
    method: 'wet-rub',
    factors: [{ key: 'preparation', levels: kinds(['none'], ['white base coat'], ['primer'], ['primer']) }],
    repeats: 3,
  },
  {
    id: 'trim-or-margin',
    ask: 'Trim to the image, or leave a margin?',
    sides: ['Trimmed: no halo.', 'A margin: easier to hold and to start.'],
    method: 'wet-rub',
    factors: [
      { key: 'trim', levels: options },
      { key: 'coatMm', levels: numbers(0.3, 0.8) },
    ],
    repeats: 3,
  },
  {
    id: 'any-glue',
    ask: 'Does any acrylic or glue work, or only a medium sold for it?',
    sides: ['Any acrylic or glue works.', 'Only a medium sold for it.'],
    method: 'wet-rub',
    factors: [
      {
        key: 'medium',
        levels: kinds(
          ['matte acrylic medium'],
          ['decoupage glue'],
          ['white glue'],
          ['photo-transfer medium'],
        ),
      },
    ],
    repeats: 3,
  },
  {
    id: 'inkjet-never',
    ask: 'Does inkjet really never work?',
    sides: ['Inkjet never works.', 'It does with the right sheet and medium: clear film and film gel.'],
    method: 'film-pull',
    factors: [
      { key: 'printer', levels: { from: 'colourants', colourants: ['pigment ink', 'dye ink'] } },
      { key: 'medium', levels: kinds(['film gel'], ['rubbing alcohol']) },
    ],
    repeats: 3,
    overrides: ['dye-on-film'],
  },
  {
    id: 'flawless-or-broken',
    ask: 'Flawless, or broken and worn?',
    sides: ['A flawless result.', 'A broken, worn, painterly one.'],
    method: 'wet-rub',
    intent: 'worn',
    factors: [
      { key: 'coatMm', levels: numbers(0.15, 0.5) },
      { key: 'rounds', levels: numbers(1, 2, 4) },
    ],
    // What is wanted is no setting: no comparison of coats or rounds answers it.
    about: [],
    repeats: 2,
  },
  {
    id: 'many-or-one-clear',
    ask: 'Many light clear coats, or one thick two-part coat?',
    sides: ['Many light coats.', 'One thick two-part coat.'],
    method: 'tissue-embed',
    factors: [
      {
        key: 'finish',
        levels: kinds(
          {
            kinds: ['spray clear', 'varnish'],
            coatsLeast: 3,
            called: 'a clear of three or more light coats',
          },
          { kinds: ['poured clear'], twoPart: true, called: 'a two-part clear' },
        ),
      },
    ],
    repeats: 4,
  },
];
