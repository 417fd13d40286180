import { countTurned } from '../diagnosis/index.ts';
import { lessonsOf } from '../drying/index.ts';
import { evidenceIn } from '../evidence/index.ts';
import { observing, scatterOf } from '../findings/index.ts';
import { MEASURES } from '../measures/index.ts';
import { hasBegun, patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import {
  isArchived,
  levelsLine,
  planNow,
  readingOf,
  settingsOf,
  standing,
  verdictOf,
  withoutPractice,
} from '../trial/index.ts';
import { SUMMARY_VERSION, type TrialSummary } from './kept.ts';

/**
 * The summary of a trial as it stands. What is learnt from it for other trials leaves practice photos out, but in a
 * workshop of samples, where all of it is made up.
 *
 * @example summaryOf({ plan, records }).standing; // => 'under way'
 */
export function summaryOf({ plan: made, records }: Trialled, isSample = false): TrialSummary {
  const plan = planNow(made, records);
  const known = isSample ? records : withoutPractice(records);
  const { id, code, name, question, method, createdAt } = plan;
  // Where methods are compared, what is to be expected of one comes from its own patches.
  const own = new Set(plan.patches.filter(p => settingsOf(plan, p).method.id === method).map(p => p.code));
  const observed = observing(plan, known);
  const read = plan.patches.filter(p => readingOf(records, p.code)).length;
  return {
    version: SUMMARY_VERSION,
    ...{ id, code, name, question, method, createdAt },
    patches: plan.patches.length,
    real: plan.real !== undefined,
    standing: standingOf({ plan, records }, read),
    printed: standing(records).some(r => r.kind === 'papers' && r.donors),
    read,
    tags: plan.tags ?? [],
    archived: isArchived(records),
    lessons: lessonsOf({ plan, records: known }),
    turned: countTurned(plan, records),
    words: wordsOf({ plan, records }),
    scatter: scatterOf(plan, known) ?? null,
    evidence: evidenceIn(plan, known),
    results: Object.fromEntries(
      MEASURES.map(({ id }) => [id, observed(id).flatMap(o => (own.has(o.code) ? [o.value] : []))]),
    ) as TrialSummary['results'],
  };
}

/** So many letters of notes are searched; more are rare, and summaries stay small. */
const MOST_NOTES = 4000;

function wordsOf({ plan, records }: Trialled): TrialSummary['words'] {
  const settings = plan.patches.map(p => settingsOf(plan, p));
  const items = settings.flatMap(s =>
    [s.printer, s.donor, s.medium, s.substrate, s.preparation, s.pressing, s.rubTool, s.finish].flatMap(
      item => (item ? [item.name] : []),
    ),
  );
  const notes = records.flatMap(r => (r.kind === 'note' ? [r.text] : r.kind === 'spoilt' ? [r.why] : []));
  return {
    methods: [...new Set(settings.map(s => s.method.id))],
    materials: [...new Set(items)],
    notes: notes.join(' ').slice(0, MOST_NOTES),
    patches: plan.patches.map(p => ({
      code: p.code,
      levels: levelsLine(plan, p),
      landed: readingOf(records, p.code)?.reading.reading.landed ?? null,
      symptoms: verdictOf(records, p.code)?.symptoms ?? [],
    })),
  };
}

function standingOf({ plan, records }: Trialled, read: number): TrialSummary['standing'] {
  if (!hasBegun(records)) return 'planned';
  const { lines, airs } = progressOf(plan, records);
  if (lines.some(line => patchStatus(line, airs, 0).next)) return 'under way';
  return read < plan.patches.length ? 'to read' : 'read';
}
