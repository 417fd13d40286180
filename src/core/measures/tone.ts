import * as v from 'valibot';
import { colourOff } from '../say/index.ts';
import { field, type Measure } from './measure.ts';

/** How far its colour is off what the ink on this ground should be, ΔE00 (docs/READINGS.md). */
export const TONE = {
  id: 'tone',
  name: 'Tone',
  goal: 'less',
  words: colourOff,
  of: 'off what the ink on this ground should be',
  hasGive: false,
  column: 'tone_de00',
  /** Lightness and chroma (seen less expected) came later. */
  fields: {
    ...field('tone', [0, 150]),
    deltaL: v.optional(v.nullable(v.pipe(v.number(), v.minValue(-150), v.maxValue(150))), null),
    deltaC: v.optional(v.nullable(v.pipe(v.number(), v.minValue(-250), v.maxValue(250))), null),
  },
  signals: { tone: value => value },
} as const satisfies Measure<'tone', 'tone'>;
