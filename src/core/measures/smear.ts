import * as v from 'valibot';
import { mm } from '../say/index.ts';
import { field, type Measure } from './measure.ts';

/** How far edges are drawn out beyond the camera's own blur, mm (docs/READINGS.md). */
export const SMEAR = {
  id: 'smear',
  name: 'Smear',
  goal: 'less',
  words: value => (value === 0 ? 'none' : mm(value, { places: 2 })),
  of: 'edges drawn out',
  hasGive: false,
  column: 'smear_mm',
  /** Older readings have none. */
  fields: {
    smear: v.optional(field('smear', [0, 50]).smear, null),
    smearAlong: v.optional(v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(180))), null),
  },
  signals: { smear: value => value },
} as const satisfies Measure<'smear', 'smear'>;
