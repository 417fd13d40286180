import type { Outcome } from '../outcome/index.ts';
import type { Trialled } from '../progress/index.ts';
import type { Agenda } from './agenda.ts';
import type { Working } from './sittings.ts';

/** Minutes after which a plan of the work is looked at again. */
const AGAIN_MS = 10 * 60_000;
/** So many are kept: one for every set of trials that a page may show. */
const KEPT = 6;

/** Plans of the work, kept for as long as they hold: every page that says when something is done asks here, and says the same. */
export class KeptPlans {
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

  /** Keeps a better plan, for every page. */
  keep(key: string, found: Outcome<Agenda>): void {
    this.kept.delete(key);
    this.kept.set(key, found);
    for (const old of [...this.kept.keys()].slice(0, -KEPT)) this.kept.delete(old);
  }
}
