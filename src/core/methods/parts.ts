import { mm, say } from '../say/index.ts';
import type { StepInput } from './schema.ts';

/** Steps that many methods share. A method takes one as it is, or with a few words of its own. */
export const MARK: StepInput = {
  id: 'mark',
  does: 'mark',
  action: 'Mark it',
  done: 'Marked',
  instruction: 'Pencil the code beside its place on the board, or on the back.',
  check: 'Can you read it back?',
  handsOnMin: 0.4,
  wait: { kind: 'none' },
  cautions: [],
};

export const PREPARE: StepInput = {
  id: 'prepare',
  does: 'prepare',
  action: 'Prepare the ground',
  done: 'Ground ready',
  instruction: 'Prepare it right to its edges and let it dry.',
  check: 'Flat, dull and free of dust in raking light?',
  handsOnMin: 3,
  wait: { kind: 'preparation' },
  tooSoon: 'A wet base mixes with the medium and tears.',
  ready: 'Dry all over, no longer cool to the touch?',
  cautions: ['wet-coats'],
  onlyIfPrepared: true,
};

export const COAT: StepInput = {
  id: 'coat',
  does: 'coat',
  action: 'Coat it',
  done: 'Coated',
  instruction: 'Brush an even, liberal coat over the whole place and a little beyond its edges.',
  check: 'Still wet and shining evenly?',
  handsOnMin: 1,
  wait: { kind: 'open-time' },
  tooLate: 'The coat skins over and the print only sticks in streaks.',
  cautions: ['wet-coats'],
  variants: [
    {
      when: { coatWhere: ['print'] },
      instruction:
        'Brush an even, liberal coat over the printed face, right to its edges. Keep the back of the paper clean.',
    },
  ],
};

export const PLACE: StepInput = {
  id: 'place',
  does: 'place',
  action: 'Place the print',
  done: 'Placed',
  instruction: 'Lay the print face down and press from the centre out, both ways. Wipe what squeezes out.',
  check: 'No bubbles, touching everywhere, back of the paper clean?',
  handsOnMin: 1.5,
  reverses: true,
  wait: { kind: 'planned', lo: 0.9, hi: 1.4 },
  tooSoon: 'The film is soft: the picture drags and rolls off with the paper.',
  tooLate: 'No harm to the film, but this patch no longer tests the time you planned.',
  cautions: [],
};

export const WET: StepInput = {
  id: 'wet',
  does: 'wet',
  action: 'Wet the paper',
  done: 'Wetted',
  instruction:
    'Dampen the back until the paper turns dark all over and the print shows through. Do not flood it.',
  check: 'Dark all over, no pale dry islands?',
  handsOnMin: 0.5,
  wait: { kind: 'fixed', min: 0.5, aim: 2, max: 8 },
  tooSoon: 'Dry paper tears in islands.',
  tooLate: 'The paper dries out or the film goes soft.',
  cautions: [],
  eachRound: true,
  variants: [
    {
      when: { removal: ['once'] },
      instruction:
        'Soak the back through with a wet sponge and let it stand, wet all over, until the paper is loose everywhere.',
    },
    {
      when: { water: ['soaked'] },
      instruction:
        'Soak the back through with a wet sponge and keep it wet until the paper lifts at a corner.',
    },
  ],
};

export const RUB: StepInput = {
  id: 'rub',
  does: 'rub',
  action: 'Rub the paper off',
  done: 'Rubbed',
  instruction:
    'Rub in small circles from the middle. Press harder as the paper turns transparent. Colour on the finger means stop.',
  handsOnMin: 4,
  wait: { kind: 'fixed', min: 20, aim: 45, max: 1440, dries: true },
  tooSoon: 'Paper that is left is invisible while it is wet.',
  ready: 'Dry to the touch, no longer dark?',
  cautions: ['long-rubbing'],
  eachRound: true,
  variants: [
    {
      when: { removal: ['once'] },
      instruction:
        'Rub in small circles from the middle and go on, keeping it wet, until all of the paper is off. Colour on the finger means stop.',
    },
  ],
};

export const LOOK: StepInput = {
  id: 'look',
  does: 'look',
  action: 'Look at it dry',
  done: 'Looked',
  instruction: 'Now it is dry: look for white veil and bare patches. Photograph it through the reading card.',
  check: 'Is the whole patch dry to the touch?',
  handsOnMin: 1,
  wait: { kind: 'none' },
  cautions: [],
  eachRound: true,
};

export const FINISH: StepInput = {
  id: 'finish',
  does: 'finish',
  action: 'Put the finish on',
  done: 'Coat is on',
  instruction: 'Put a coat of the finish on, even, right to the edges, and let it dry as its label says.',
  check: 'No dust, no bare place in raking light?',
  handsOnMin: 3,
  wait: { kind: 'finish' },
  tooSoon: 'The next coat wrinkles the one below.',
  tooLate: 'Past its recoat window the next coat may not hold: rub it dull first, as its label says.',
  ready: 'No longer cool, and not tacky at the edge?',
  cautions: ['wet-coats'],
  onlyIfFinished: true,
};

export const DAMP_OR_SOAKED = [
  { id: 'damp', name: 'Damp only', says: 'The film stays firm.' },
  { id: 'soaked', name: 'Soaked', says: 'The paper lets go by itself.' },
];

export const COAT_ON = [
  { id: 'substrate', name: 'On the substrate', says: 'It soaks in and grips.' },
  { id: 'print', name: 'On the print', says: 'No bare spot can be missed.' },
];

export const TRIMMED_OR_NOT = [
  { id: 'trimmed', name: 'Trimmed to the image', says: 'No halo round the picture.' },
  {
    id: 'margin',
    name: 'A rim of paper left round it',
    says: say`About ${mm(5)}: easier to hold and to start rubbing.`,
  },
];

export const ROUNDS_OR_ONCE = [
  {
    id: 'rounds',
    name: 'Damp, several rounds with drying between',
    says: 'You see the veil and take it off gently.',
  },
  {
    id: 'once',
    name: 'Soak and clean in one go',
    says: 'One wetting is kinder to the film than four.',
    once: true,
  },
];

/** A step with some of its words changed. */
export const varied = (step: StepInput, change: Partial<StepInput>): StepInput => ({ ...step, ...change });
