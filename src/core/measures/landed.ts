import { percent, points } from '../say/index.ts';
import { fieldWithGive, type Measure } from './measure.ts';

/** Share of the picture's inked area where colourant is (docs/READINGS.md). */
export const LANDED = {
  id: 'landed',
  name: 'Landed',
  goal: 'more',
  words: value => percent(value, { places: 1 }),
  withheld: 'not given',
  of: '',
  hasGive: true,
  column: 'landed_pct',
  giveColumn: 'landed_give',
  response: {
    noun: 'landed',
    more: 'lands more',
    heading: 'landed, %',
    difference: points,
    scale: { most: 100 },
    bounds: [0, 100],
    digits: 0,
    figures: 1,
  },
  fields: fieldWithGive('landed', [0, 100]),
  signals: { bareShare: value => 1 - value / 100 },
} as const satisfies Measure<'landed', 'bareShare'>;
