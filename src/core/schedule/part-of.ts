import type { Outcome } from '../outcome/index.ts';
import type { Agenda } from './agenda.ts';

/**
 * What an agenda of several trials has of one of them: its tasks, when it ends, the work of its hands. Washing and mixing
 * are of all, and so is how much could be gained.
 *
 * @example partOf(agenda, plan.id).tasks.every(t => t.trial === plan.id); // => true
 */
export function partOf(agenda: Agenda, trial: string): Agenda {
  const tasks = agenda.tasks.filter(t => t.trial === trial);
  return {
    ...agenda,
    tasks,
    ends: tasks.reduce((last, t) => Math.max(last, t.to), Number.NEGATIVE_INFINITY),
    // What is done for several pieces in one go is work once.
    handsMin: [...new Map(tasks.map(t => [`${t.from} ${t.who}`, t])).values()].reduce(
      (sum, t) => sum + (t.to - t.from) / 60_000,
      0,
    ),
    late: agenda.late.filter(code => tasks.some(t => t.patch === code)),
  };
}

/**
 * When a trial is done (ms) by a plan of the work; nothing where none was found, or nothing of it is left to do.
 *
 * @example endIn({ ok: false, problem: { code: 'none', say: '' } }, 'x'); // => undefined
 */
export function endIn(found: Outcome<Agenda> | undefined, trial: string): number | undefined {
  const ends = found?.ok ? partOf(found.value, trial).ends : Number.NaN;
  return Number.isFinite(ends) ? ends : undefined;
}
