import type { Outcome } from '../outcome/index.ts';
import type { Trialled } from '../progress/index.ts';
import { type Agenda, agendaOfAll, partOf } from './agenda.ts';
import { forecast } from './forecast.ts';
import type { Working } from './sittings.ts';

/** Minutes after which a plan of the work is looked at again. */
const AGAIN_MS = 10 * 60_000;
/** So many are kept: one for every set of trials that a page may show. */
const KEPT = 6;

/** Plans of the work, kept for as long as they hold: every page that says when something is done asks here, and says the same. */
export class WorkPlans {
  private readonly kept = new Map<string, Outcome<Agenda>>();

  /** What a plan is of: trials in any order, how one works, and about when. */
  keyOf(trials: readonly Trialled[], working: Working, now: number): string {
    const about = trials.map(t => `${t.plan.id} ${t.records.length}`).sort();
    return JSON.stringify([about, working, Math.floor(now / AGAIN_MS)]);
  }

  /** A plan that was found before. */
  known(key: string): Outcome<Agenda> | undefined {
    return this.kept.get(key);
  }

  /** The plan of the work on all trials of the same hands: one that was found before, or a quick one. */
  of(trials: readonly Trialled[], working: Working, now: number): Outcome<Agenda> {
    const key = this.keyOf(trials, working, now);
    const found = this.known(key) ?? agendaOfAll(trials, working, now);
    this.keep(key, found);
    return found;
  }

  /** Keeps a better plan, for every page. */
  keep(key: string, found: Outcome<Agenda>): void {
    this.kept.delete(key);
    this.kept.set(key, found);
    for (const old of [...this.kept.keys()].slice(0, -KEPT)) this.kept.delete(old);
  }

  /**
   * When a trial is done (ms), by the plan of the work on all of them; where there is none, if one worked on it alone and
   * without a pause.
   *
   * @throws when the trial is none of them.
   */
  endOf(trials: readonly Trialled[], working: Working, now: number, trial: string): number {
    const own = trials.find(t => t.plan.id === trial);
    if (!own) throw new Error(`${trial} is not among the trials.`);
    return endIn(this.of(trials, working, now), trial) ?? forecast(own.plan, own.records, now).endsAt;
  }
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
