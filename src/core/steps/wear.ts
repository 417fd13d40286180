import { type CautionId, newStep, type Step } from '../methods/index.ts';
import type { WearTest } from '../trial/index.ts';

interface WearTestKind {
  readonly name: string;
  readonly how: string;
  readonly minutes: number;
  /** It is looked at only when it is dry again. */
  readonly wets?: true;
  readonly cautions?: readonly CautionId[];
  /** It is done to a piece with all patches on it. */
  readonly whole?: true;
}

/** What each wear test is called and how it is done (docs/HANDBOOK.md §10); starting points, the same for every patch. */
export const WEAR: Record<WearTest, WearTestKind> = {
  'dry-rub': {
    name: 'Dry rub',
    how: '50 double strokes with a dry cotton cloth, the weight of a hand.',
    minutes: 1,
  },
  'wet-rub': { name: 'Wet rub', how: '20 double strokes with a wet, wrung cloth.', minutes: 1, wets: true },
  tape: {
    name: 'Tape pull',
    how: 'Press clear tape on with a thumb, wait a minute, pull it off flat.',
    minutes: 1.5,
  },
  water: {
    name: 'Water drop',
    how: 'A coin-sized drop of water, 10 minutes, dab it off.',
    minutes: 11,
    wets: true,
  },
  wash: {
    name: 'Wash',
    how: 'One gentle wash by hand or machine, inside out, dried in the air.',
    minutes: 5,
    wets: true,
    whole: true,
  },
  bend: { name: 'Bend', how: 'Ten times round a finger-thick rod and back.', minutes: 1 },
  sun: { name: 'Sunlight', how: 'Half of it covered, behind a south window. Note the days.', minutes: 1 },
  heat: {
    name: 'Hot cup',
    how: 'A cup of hot water stood on it for 10 minutes.',
    minutes: 11,
    cautions: ['hot-tools'],
  },
};

/**
 * Two steps for each wear test: wear it, then look at it through the reading card as before.
 *
 * @example wearSteps(['tape']).map(step => step.does); // => ['wear', 'look']
 */
export const wearSteps = (tests: readonly WearTest[]): Step[] =>
  tests.flatMap((id): Step[] => [
    newStep({
      id: `wear-${id}`,
      does: 'wear',
      wears: id,
      action: WEAR[id].name,
      done: `${WEAR[id].name} done`,
      instruction: `${WEAR[id].how} Photograph it through the reading card before and after.`,
      handsOnMin: WEAR[id].minutes,
      wait: WEAR[id].wets ? { kind: 'fixed', min: 20, aim: 60, max: 50_000 } : { kind: 'none' },
      cautions: [...(WEAR[id].cautions ?? [])],
    }),
    newStep({
      id: `worn-${id}`,
      does: 'look',
      action: 'Look at it worn',
      done: 'Looked',
      instruction:
        'Photograph it dry through the reading card. What is lost is the difference to the photo before.',
      handsOnMin: 1,
      wait: { kind: 'none' },
      cautions: [],
    }),
  ]);
