import type { Session } from '../calendar/index.ts';
import type { WearTest } from '../factors/index.ts';
import { within } from '../say/index.ts';
import { isOne, SUBSTRATES } from '../shelf/index.ts';
import { WEAR } from '../steps/index.ts';
import { type RecipeBook, settingsIn, type Worn } from './kept.ts';

/** A look at a made piece, some days after it was made. */
export interface FollowUp {
  /** The batch of pieces it is about. */
  readonly made: string;
  readonly test: WearTest;
  readonly days: number;
  /** When it is due, ms. */
  readonly due: number;
  /** What came of it; nothing while it is still to be done. */
  readonly done?: Worn;
}

const DAY = 86_400_000;
const HALF_HOUR = 1_800_000;

/**
 * When a made piece is worn on purpose, in days after it was made: once the medium has cured, after a month, after a
 * season; what is cloth is washed after four days, when it may be (docs/HANDBOOK.md §4), and again.
 */
const AFTER: readonly {
  readonly test: WearTest;
  readonly days: number;
  readonly on: 'any' | 'cloth' | 'hard';
}[] = [
  { test: 'wash', days: 4, on: 'cloth' },
  { test: 'dry-rub', days: 7, on: 'any' },
  { test: 'tape', days: 7, on: 'hard' },
  { test: 'wash', days: 30, on: 'cloth' },
  { test: 'wet-rub', days: 30, on: 'hard' },
  { test: 'sun', days: 90, on: 'any' },
];

/**
 * The follow-ups of all that was made by a recipe, the first due first: each test at its day, with what came of it.
 */
export function followUps(book: Pick<RecipeBook, 'made' | 'worn' | 'now'>): readonly FollowUp[] {
  const isCloth = isOne(SUBSTRATES.cloth, settingsIn(book.now).substrate.kind);
  return book.made
    .flatMap(made =>
      AFTER.filter(({ on }) => on === 'any' || (on === 'cloth') === isCloth).map(
        ({ test, days }): FollowUp => {
          const done = book.worn.findLast(w => w.made === made.id && w.test === test && w.days === days);
          return {
            ...{ made: made.id, test, days, due: Date.parse(made.at) + days * DAY },
            ...(done ? { done } : {}),
          };
        },
      ),
    )
    .sort((a, b) => a.due - b.due || a.days - b.days);
}

/** Those still to be done, for a calendar: half an hour each, the same event when it is written again. */
export const followUpSessions = (book: RecipeBook): readonly Session[] =>
  followUps(book)
    .filter(f => !f.done)
    .map(({ made, test, days, due }) => {
      const what = `${within(WEAR[test].name)}, ${days} days after it was made`;
      return {
        uid: `${made}-${test}-${days}@wet-test`,
        title: `${book.now.name}: ${what}`,
        what,
        lines: [
          WEAR[test].how,
          'Photograph it before and after, and write down in its recipe what came of it.',
        ],
        ...{ from: due, to: due + HALF_HOUR, alarms: [15] },
      };
    });

/**
 * What lasted, test by test, in words; nothing where nothing was tried yet.
 *
 * @example lastingWords([]); // => []
 */
export function lastingWords(worn: readonly Worn[]): readonly string[] {
  return [...new Set(worn.map(w => w.test))].map(test => {
    const own = worn.filter(w => w.test === test);
    const held = own.filter(w => w.came === 'held').length;
    const lost = own.filter(w => w.came === 'lost').length;
    return `${WEAR[test].name}: held ${held} of ${own.length}${lost ? `, lost ${lost}` : ''}`;
  });
}
