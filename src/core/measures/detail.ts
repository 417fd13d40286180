import * as v from 'valibot';
import { mm } from '../say/index.ts';
import { field, type Measure } from './measure.ts';

/** Width of the finest line that is still separate, mm (docs/READINGS.md). */
export const DETAIL = {
  id: 'detail',
  name: 'Finest line',
  goal: 'less',
  words: value => mm(value),
  of: 'still separate from the ground',
  hasGive: false,
  column: 'detail_mm',
  /** Older readings have none. */
  fields: { detail: v.optional(field('detail', [0, 50]).detail, null) },
  signals: {},
} as const satisfies Measure<'detail', never>;
