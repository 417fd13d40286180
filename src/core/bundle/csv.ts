import Papa from 'papaparse';
import {
  about,
  FACTOR_NAMES,
  levelNames,
  readingOf,
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

/** The trial as three tables for other programs: patches, records, readings (docs/FORMATS.md). */
export function csvFiles(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): Record<'patches.csv' | 'records.csv' | 'readings.csv', string> {
  const factors = plan.factors.map(f => FACTOR_NAMES[f.key].toLowerCase().replace(/ /g, '_'));
  const patches = plan.patches.map(p => {
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
      ...Object.fromEntries(levelNames(plan, p).map((name, i) => [factors[i], name])),
      medium_batch: medium.batch,
      medium_opened: medium.opened,
      landed_pct: reading?.landed,
      veil: reading?.veil,
      verdict: verdict?.verdict,
      grade: verdict?.grade,
      symptoms: verdict?.symptoms.join(' '),
    };
  });
  const events = records.map(r => ({
    id: r.id,
    at: r.at,
    patch: r.patch,
    kind: r.kind,
    what: inWords(r),
  }));
  const readings = plan.patches.flatMap(p =>
    about(records, p.code, 'reading').map(r => {
      const photo = about(records, p.code, 'photo').find(ph => ph.photo === r.photo);
      const x = r.reading;
      return {
        code: p.code,
        at: r.at,
        photo: r.photo,
        stage: photo?.stage,
        round: photo?.round,
        simulated: photo?.simulated,
        landed_pct: x.landed,
        landed_give: x.landedGive,
        visible_pct: x.visible,
        veil: x.veil,
        veil_give: x.veilGive,
        stain_pct: x.stain,
        detail_mm: x.detail ?? null,
        tone_de00: x.tone,
        bare_count: x.bare.length,
        bare_mm2: x.bare.reduce((sum, b) => sum + b.area, 0).toFixed(2),
        mirrored: x.mirrored,
        turn: x.turn,
        px_per_mm: x.quality.pxPerMm,
      };
    }),
  );
  return {
    'patches.csv': csv(patches, [
      'code',
      'order',
      'board',
      'x_mm',
      'y_mm',
      'repeat',
      ...factors,
      'medium_batch',
      'medium_opened',
      'landed_pct',
      'veil',
      'verdict',
      'grade',
      'symptoms',
    ]),
    'records.csv': csv(events, ['id', 'at', 'patch', 'kind', 'what']),
    'readings.csv': csv(readings, [
      'code',
      'at',
      'photo',
      'stage',
      'round',
      'simulated',
      'landed_pct',
      'landed_give',
      'visible_pct',
      'veil',
      'veil_give',
      'stain_pct',
      'detail_mm',
      'tone_de00',
      'bare_count',
      'bare_mm2',
      'mirrored',
      'turn',
      'px_per_mm',
    ]),
  };
}

/** What a record says, in a cell. */
function inWords(r: TrialRecord): string {
  switch (r.kind) {
    case 'step':
      return `${r.step} round ${r.round}${r.told ? ', told later' : ''}${r.skipped ? ', skipped' : ''}${r.also?.length ? `, with ${r.also.join(' ')}` : ''}`;
    case 'air':
      return `${r.air.tempC} °C ${r.air.rh} % (${r.source ?? 'hand'})`;
    case 'note':
      return r.text;
    case 'spoilt':
      return r.why;
    case 'photo':
      return `${r.photo} ${r.stage}`;
    case 'undo':
      return r.of;
    case 'verdict':
      return r.verdict;
    case 'reading':
      return r.photo;
    case 'ready':
      return `${r.ready ? 'ready' : 'not ready'} for ${r.step} round ${r.round}`;
    case 'coat':
      return `${r.grams} g (${r.source ?? 'hand'})`;
  }
}
