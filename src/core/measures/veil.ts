import { veil } from '../say/index.ts';
import { fieldWithGive, type Measure } from './measure.ts';

/** Paper that is left over what landed, 0 none to 1 white (docs/READINGS.md). Only from a dry photo. */
export const VEIL = {
  id: 'veil',
  name: 'Veil',
  goal: 'less',
  words: veil,
  withheld: 'not given: photograph it dry',
  withheldByHand: 'not given: it takes the reading card',
  of: '',
  hasGive: true,
  column: 'veil',
  giveColumn: 'veil_give',
  response: {
    noun: 'veil',
    more: 'leaves less veil',
    heading: 'veil, 0 to 1',
    difference: veil,
    scale: { atLeast: 0.2, atMost: 1 },
    bounds: [0, 1],
    digits: 2,
    figures: 3,
  },
  fields: fieldWithGive('veil', [0, 1]),
  signals: { veil: value => value },
} as const satisfies Measure<'veil', 'veil'>;
