import type { Trialled } from '../progress/index.ts';
import type { Working } from '../schedule/index.ts';
import { type AtHand, actionName, type Next, whatNext } from './next.ts';

/** Who stands at the bench stays this long, whatever their sittings say. */
const STAYS_MS = 4 * 3_600_000;
/** An answer holds for so long, if nothing happens. */
const HOLDS_MS = 5000;

/** What is asked: over which trials, in which hours, what the hands are at, and what was put aside. */
export interface Asked {
  readonly trials: readonly Trialled[];
  readonly working: Working;
  readonly atHand: AtHand | undefined;
  readonly aside: ReadonlySet<string> | undefined;
}

const sameTrials = (a: readonly Trialled[], b: readonly Trialled[]) =>
  a.length === b.length && a.every((t, i) => t.plan === b[i].plan && t.records === b[i].records);

/** What these hands do next, for every screen that asks: the last answer stays until something happens or five seconds are over. */
export class Answers {
  private readonly kept = new Map<string, Asked & { readonly at: number; readonly next: Next }>();

  /** The answer at `now` (ms) for these hands, by any name. */
  next(hands: string, asked: Asked, now: number): Next {
    const old = this.kept.get(hands);
    const { action } = old?.next ?? {};
    const isOver = action?.kind === 'wait' && now >= action.until;
    if (
      old &&
      sameTrials(old.trials, asked.trials) &&
      old.working === asked.working &&
      old.atHand === asked.atHand &&
      old.aside === asked.aside &&
      now - old.at < HOLDS_MS &&
      now >= old.at &&
      !isOver
    )
      return old.next;
    const before = old && (actionName(old.next) || undefined);
    const next = whatNext(asked.trials, asked.working, now, {
      atHand: asked.atHand,
      before,
      hereUntil: now + STAYS_MS,
      ...(asked.aside ? { aside: asked.aside } : {}),
    });
    this.kept.set(hands, { ...asked, at: now, next });
    return next;
  }

  /** The answer where one trial is open: while another only waits, the open one says what it waits for itself. */
  nextAt(hands: string, open: string, asked: Asked, now: number): Next {
    const next = this.next(hands, asked, now);
    if (next.action.kind !== 'wait' || next.trial?.id === open) return next;
    const trials = asked.trials.filter(t => t.plan.id === open);
    const alone = this.next(`${hands} ${open}`, { ...asked, trials }, now);
    return alone.action.kind === 'finished' ? next : alone;
  }
}
