import Papa from 'papaparse';
import { write } from '../say/index.ts';
import type { Effect } from './effect.ts';

/**
 * Findings as a table: a row for each level of each factor in each measure, with its mean, its 90 % interval and how many
 * patches it rests on.
 *
 * @example findingsCsv({ effects: [] }); // => ''
 */
export const findingsCsv = ({ effects }: { readonly effects: readonly Effect[] }): string =>
  Papa.unparse(
    effects.flatMap(e =>
      e.levels.map(l => ({
        measure: e.measure,
        factor: e.name,
        level: write(l.name),
        mean: l.mean,
        lo: l.lo,
        hi: l.hi,
        patches: l.n,
        best: e.best === l.level ? 'likeliest' : '',
        sure: e.best === l.level && e.sure !== undefined ? e.sure : '',
      })),
    ),
    { escapeFormulae: true, newline: '\n' },
  );
