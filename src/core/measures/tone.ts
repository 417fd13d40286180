import { field, type Measure } from './measure.ts';

/** How far its colour is off what the ink on this ground should be, ΔE00 (docs/READINGS.md). */
export const TONE = {
  id: 'tone',
  name: 'Tone',
  better: 'less',
  words: value => `ΔE ${value.toFixed(1)}`,
  of: 'off what the ink on this ground should be',
  hasGive: false,
  column: 'tone_de00',
  fields: field('tone', [0, 150]),
  signals: { tone: value => value },
} as const satisfies Measure<'tone', 'tone'>;
