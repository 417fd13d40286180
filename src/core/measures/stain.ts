import { percent } from '../say/index.ts';
import { field, type Measure } from './measure.ts';

/** Colourant where the picture has none (docs/READINGS.md). */
export const STAIN = {
  id: 'stain',
  name: 'Stain',
  goal: 'less',
  words: value => percent(value, { places: 1 }),
  of: 'of the white parts',
  hasGive: false,
  column: 'stain_pct',
  fields: field('stain', [0, 100]),
  signals: { stain: value => value / 100 },
} as const satisfies Measure<'stain', 'stain'>;
