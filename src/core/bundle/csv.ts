import Papa from 'papaparse';
import { ASPECT_IDS } from '../aspects/index.ts';
import { MEASURE_COLUMNS, measureCells } from '../measures/index.ts';
import { write } from '../say/index.ts';
import {
  about,
  aspectsOf,
  factorIn,
  levelNames,
  NO_LEVEL,
  type Patch,
  readingOf,
  recordWords,
  settingsOf,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';

const csv = (rows: readonly Record<string, unknown>[], columns: readonly string[]) =>
  Papa.unparse(
    { fields: [...columns], data: rows.map(r => columns.map(c => r[c] ?? '')) },
    { escapeFormulae: true, newline: '\n' },
  );

/**
 * The trial as three tables for other programs: patches, records, readings (docs/FORMATS.md).
 *
 * @example csvFiles(plan, records)['patches.csv'].split('\n').length; // => 13
 */
export function csvFiles(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): Record<'patches.csv' | 'records.csv' | 'readings.csv', string> {
  const factors = plan.factors.map(f => factorIn(plan, f.key).toLowerCase().replace(/ /g, '_'));
  return {
    'patches.csv': csv(patchRows(plan, records, factors), [
      ...PLACED,
      ...factors,
      'medium_batch',
      'medium_opened',
      'landed_pct',
      'veil',
      'verdict',
      'grade',
      'symptoms',
      ...ASPECT_IDS,
    ]),
    'records.csv': csv(
      records.map(r => ({ id: r.id, at: r.at, patch: r.patch, kind: r.kind, what: recordWords(r) })),
      ['id', 'at', 'patch', 'kind', 'what'],
    ),
    'readings.csv': csv(readingRows(plan, records), [
      ...['code', 'at', 'photo', 'stage', 'worn', 'round', 'simulated'],
      ...MEASURE_COLUMNS,
      ...['visible_pct', 'bare_count', 'bare_mm2', 'mirrored', 'turn', 'px_per_mm'],
    ]),
  };
}

const PLACED = ['code', 'order', 'board', 'x_mm', 'y_mm', 'repeat'];

/** A cell a factor; empty where the patch's method does not have it. */
function levelCells(plan: TrialPlan, patch: Patch, factors: readonly string[]): Record<string, string> {
  if (!patch.levels.length) return { [factors[0]]: write(levelNames(plan, patch)[0]) };
  const own = factors.filter((_, f) => patch.levels[f] !== NO_LEVEL);
  const names = levelNames(plan, patch);
  return Object.fromEntries(own.map((name, i) => [name, write(names[i])]));
}

const patchRows = (plan: TrialPlan, records: readonly TrialRecord[], factors: readonly string[]) =>
  plan.patches.map(p => {
    const { medium } = settingsOf(plan, p);
    const verdict = verdictOf(records, p.code);
    const reading = readingOf(records, p.code)?.reading.reading;
    return {
      code: p.code,
      order: p.order + 1,
      board: p.board + 1,
      x_mm: p.x,
      y_mm: p.y,
      repeat: p.repeat + 1,
      ...levelCells(plan, p, factors),
      medium_batch: medium.batch,
      medium_opened: medium.opened,
      landed_pct: reading?.landed,
      veil: reading?.veil,
      verdict: verdict?.verdict,
      grade: verdict?.grade,
      symptoms: verdict?.symptoms.join(' '),
      ...aspectsOf(records, p.code),
    };
  });

const readingRows = (plan: TrialPlan, records: readonly TrialRecord[]) =>
  plan.patches.flatMap(p =>
    about(records, p.code, 'reading').map(r => {
      const photo = about(records, p.code, 'photo').find(ph => ph.photo === r.photo);
      const x = r.reading;
      return {
        code: p.code,
        at: r.at,
        photo: r.photo,
        stage: photo?.stage,
        worn: photo?.worn,
        round: photo?.round,
        simulated: photo?.simulated,
        ...measureCells(x),
        visible_pct: x.visible,
        bare_count: x.bare.length,
        bare_mm2: x.bare.reduce((sum, b) => sum + b.area, 0).toFixed(2),
        mirrored: x.mirrored,
        turn: x.turn,
        px_per_mm: x.quality.pxPerMm,
      };
    }),
  );
