import * as v from 'valibot';
import { parsePlan } from '../core/bundle/index.ts';
import type { Progress } from '../core/outcome/index.ts';
import { write } from '../core/say/index.ts';
import { SUMMARY_VERSION, TrialSummary } from '../core/summary/kept.ts';
import { type logOf, recordsIn } from './log.ts';
import type { Marks } from './marks.ts';
import { StorageError } from './storage-error.ts';
import type { Stores } from './stores.ts';

/** How a plan is stored. A removed trial is kept until it is erased. */
export interface KeptPlan {
  readonly plan: unknown;
  readonly removedAt?: string;
}

/** A trial in a list. */
export interface ListedTrial {
  readonly summary: TrialSummary;
  readonly removedAt?: string;
}

/** A stored trial that cannot be read; it stays stored and can be saved to a file as it is. */
export interface DamagedTrial {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** All trials of a workshop, newest first, and those that cannot be read. */
export interface Overview {
  readonly trials: readonly ListedTrial[];
  readonly damaged: readonly DamagedTrial[];
}

interface End {
  readonly trial: string;
  readonly entries: number;
}

interface KeptSummary {
  readonly summary: unknown;
  /** How many entries the log had: with one more it does not fit any longer. */
  readonly entries: number;
  readonly removedAt?: string;
}

interface Parts {
  readonly stores: Pick<Stores, 'plans' | 'summaries'>;
  readonly log: ReturnType<typeof logOf>;
  readonly marks: Marks | undefined;
  readonly rawPlan: (trial: string) => Promise<KeptPlan | null>;
  readonly inTurn: <T>(trial: string, work: () => Promise<T>) => Promise<T>;
  /** All of the workshop is made up, so that practice photos are what there is to learn from. */
  readonly isSample: boolean;
}

/** The summaries of a workshop's trials: a cache that fits as long as the log has no further entry, made anew when not. */
export function summariesOf({ stores, log, marks, rawPlan, inTurn, isSample }: Parts) {
  /** The summary of a trial made anew; its turn has to be held. */
  const summarise = async (trial: string): Promise<ListedTrial | DamagedTrial | undefined> => {
    const logged = log.entries(trial);
    // Where the plan is not there nobody waits for its records.
    logged.catch(() => undefined);
    const kept = await rawPlan(trial);
    if (!kept) return undefined;
    const parsed = parsePlan(kept.plan);
    if (!parsed.ok) return { id: trial, name: nameIn(kept), why: write(parsed.problem.say) };
    const removed = kept.removedAt ? { removedAt: kept.removedAt } : {};
    // Most visits find every summary as it was: what makes them is fetched when one is missing.
    const { summaryOf } = await import('../core/summary/summary.ts');
    try {
      const entries = await logged;
      const { records } = recordsIn(entries);
      const summary = summaryOf({ plan: parsed.value, records }, isSample);
      const kept: KeptSummary = { summary, entries: entries.length, ...removed };
      await stores.summaries.setItem(trial, kept);
      marks?.remove(trial);
      return { summary, ...removed };
    } catch (error) {
      if (error instanceof StorageError) throw error;
      return {
        id: trial,
        name: parsed.value.name,
        why: `Its records do not fit together (${words(error)}).`,
      };
    }
  };

  const keptSummaries = async () => {
    const known = new Map<string, ListedTrial>();
    const ends: End[] = [];
    await stores.summaries.iterate<KeptSummary>((kept, trial) => {
      if ((kept?.summary as { version?: unknown } | undefined)?.version !== SUMMARY_VERSION) return;
      const summary = v.safeParse(TrialSummary, kept.summary);
      if (!summary.success || summary.output.id !== trial || !Number.isInteger(kept.entries)) return;
      ends.push({ trial, entries: kept.entries });
      known.set(trial, {
        summary: summary.output,
        ...(kept.removedAt ? { removedAt: kept.removedAt } : {}),
      });
    });
    return { known, ends };
  };

  /** Those of these trials whose log went on after their summary. */
  const outdated = async (ends: readonly End[]): Promise<string[]> => {
    const found: string[] = [];
    await inHandfuls(ends, async ({ trial, entries }) => {
      if (!(await log.endsAt(trial, entries))) found.push(trial);
    });
    return found;
  };

  const overview = async (tell: Progress = () => {}): Promise<Overview> => {
    const { known, ends } = await keptSummaries();
    // A record that came after a summary was made tells by its number. With marks only those that have one are asked.
    const doubted = ends.filter(({ trial }) => !marks || marks.has(trial));
    for (const trial of await outdated(doubted)) known.delete(trial);
    const ids = await stores.plans.keys();
    const missing = ids.filter(id => !known.has(id));
    const made = new Map<string, ListedTrial | DamagedTrial | undefined>();
    await inHandfuls(missing, async trial => {
      tell(made.size / missing.length, 'Looking through the trials');
      made.set(trial, await inTurn(trial, () => summarise(trial)));
    });
    const trials: ListedTrial[] = [];
    const damaged: DamagedTrial[] = [];
    for (const trial of ids) {
      const found = known.get(trial) ?? made.get(trial);
      if (!found) continue;
      if ('why' in found) damaged.push(found);
      else trials.push(found);
    }
    return { trials: trials.sort(newestFirst), damaged };
  };

  /** Asks every log whether its summary still fits, and lets go of those that do not; says whether there was one. */
  const recheck = async (): Promise<boolean> => {
    const wrong = await outdated((await keptSummaries()).ends);
    for (const trial of wrong) await inTurn(trial, () => stores.summaries.removeItem(trial));
    return wrong.length > 0;
  };

  return { overview, recheck, summarise };
}

/** How many trials are looked through side by side: while one waits for the storage another is worked out. */
const AT_ONCE = 6;

async function inHandfuls<T>(all: readonly T[], work: (one: T) => Promise<void>): Promise<void> {
  const queue = all[Symbol.iterator]();
  const hand = async () => {
    for (const one of queue) await work(one);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, hand));
}

const newestFirst = (a: ListedTrial, b: ListedTrial) =>
  a.summary.createdAt < b.summary.createdAt ? 1 : a.summary.createdAt > b.summary.createdAt ? -1 : 0;
const nameIn = (kept: KeptPlan): string => {
  const name = (kept?.plan as { name?: unknown } | undefined)?.name;
  return typeof name === 'string' ? name.slice(0, 80) : 'A trial without a name';
};
const words = (error: unknown) => (error instanceof Error ? error.message : 'no reason given');
