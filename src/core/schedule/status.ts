import type { Step } from '../methods/index.ts';
import {
  airOf,
  type OptionKey,
  type Patch,
  type PatchSettings,
  settingsOf,
  standing,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';
import { type Air, dryingFactor } from '../units/index.ts';
import { preparedTogether } from './together.ts';
import { wearSteps } from './wear.ts';

/** When the next step may, should and must at the latest be done; ms since the epoch. */
export interface Window {
  readonly opens: number;
  readonly aim: number;
  readonly closes: number;
}

/** One link of a patch's chain. */
export interface Link {
  readonly step: Step;
  readonly round: number;
}

/** Where a patch stands: derived from the plan and the records, never stored. */
export type PatchStatus =
  | {
      readonly phase: 'to do' | 'ready' | 'waiting' | 'overdue';
      readonly next: Link;
      readonly window?: Window;
      readonly last?: Link;
    }
  | {
      readonly phase: 'finished' | 'spoilt';
      readonly next?: undefined;
      readonly window?: undefined;
      readonly last?: Link;
    };

/** The steps a patch with these settings goes through once, in order, with the words that fit its choices. */
export function stepsFor(plan: TrialPlan, settings: PatchSettings): Step[] {
  const fits = (when: Partial<Record<OptionKey, string[]>> = {}) =>
    Object.entries(when).every(([option, ids]) => ids.includes(settings[option as OptionKey]));
  const steps = plan.used.method.steps
    .filter(
      step =>
        (!step.onlyIfPrepared || settings.preparation.kind !== 'none') &&
        (!step.onlyIfFinished || (settings.finish && settings.finish.kind !== 'none')) &&
        fits(step.only),
    )
    .map(step => {
      const other = step.variants.find(v => fits(v.when));
      return other ? { ...step, instruction: other.instruction } : step;
    });
  return [...steps, ...wearSteps(plan.wear)];
}

/** Every step of a patch in order; the steps of a rubbing round come again for each round, the finish for each of its coats. */
export function chainOf(plan: TrialPlan, patch: Patch): Link[] {
  const settings = settingsOf(plan, patch);
  const once = plan.used.method.options.removal.find(o => o.id === settings.removal)?.once;
  const rounds = once ? 1 : settings.rounds;
  const coats = Math.max(1, settings.finish?.coats ?? 1);
  const steps = stepsFor(plan, settings);
  const times = (step: Step): Link[] =>
    Array.from({ length: step.onlyIfFinished ? coats : 1 }, (_, c) => ({ step, round: c + 1 }));
  const first = steps.findIndex(s => s.eachRound);
  if (first < 0) return steps.flatMap(times);
  const last = steps.findLastIndex(s => s.eachRound);
  const again = steps.slice(first, last + 1);
  return [
    ...steps.slice(0, first).flatMap(times),
    ...Array.from({ length: rounds }, (_, r) =>
      again.filter(s => s.eachRound || r === 0).map(step => ({ step, round: r + 1 })),
    ).flat(),
    ...steps.slice(last + 1).flatMap(times),
  ];
}

/** Which time a step comes that comes several times, as `round 2 of 3` or `coat 1 of 4`; nothing where it comes once. */
export function whichTime(chain: readonly Link[], link: Link): string | undefined {
  const count = chain.filter(l => l.step.id === link.step.id).length;
  if (count < 2) return undefined;
  return `${link.step.eachRound ? 'round' : 'coat'} ${link.round} of ${count}`;
}

const MIN = 60_000;

/**
 * Minutes until a coat turns tacky: the medium's open time on a closed ground, longer for a thicker
 * coat, shorter on a thirsty ground and in dry warm air (HANDBOOK §3, method 1, and §5).
 */
export function openMinutes(settings: PatchSettings, air: Air): number {
  const thirst = Math.min(1, settings.substrate.thirst * settings.preparation.thirstTimes);
  const thickness = Math.min(2.5, Math.max(0.5, settings.coatMm / 0.3));
  return settings.medium.openMin * thickness * (1 - 0.55 * thirst) * Math.sqrt(dryingFactor(air));
}

/** A window this many times as long as its best wait, with no harm known of its end, has no best moment but only an earliest. */
const LONG_WINDOW = 4;

/** Whether coming later than the best moment, but within the window, does no harm: paint that has dried stays dry. */
export function laterIsFine({ wait, tooLate }: Step): boolean {
  if (wait.kind === 'preparation' || wait.kind === 'finish') return true;
  return wait.kind === 'fixed' && !tooLate && wait.max >= LONG_WINDOW * wait.aim;
}

/** The wait after a step as minutes from its end, or nothing when the next step may follow at any time. */
export function waitAfter(step: Step, settings: PatchSettings, air: Air, plannedMin?: number) {
  switch (step.wait.kind) {
    case 'none':
      return undefined;
    case 'fixed':
      return step.wait;
    case 'open-time': {
      const max = openMinutes(settings, air);
      return { min: 0, aim: Math.min(0.75, max / 2), max };
    }
    case 'planned': {
      const aim = plannedMin ?? settings.dryHours * 60;
      return { min: aim * step.wait.lo, aim, max: aim * step.wait.hi };
    }
    case 'preparation': {
      const aim = settings.preparation.waitHours * 60 * dryingFactor(air);
      return aim ? { min: aim * 0.8, aim, max: aim * 50 } : undefined;
    }
    case 'finish': {
      const aim = (settings.finish?.waitHours ?? 0) * 60 * dryingFactor(air);
      return aim ? { min: aim * 0.8, aim, max: aim * 50 } : undefined;
    }
  }
}

/** One patch on the bench: its settings, its chain, and how far along it is. */
export interface BenchLine {
  readonly patch: Patch;
  readonly settings: PatchSettings;
  readonly chain: readonly Link[];
  /** When each link was done, ms; in the order of the chain, without gaps at the end. */
  readonly doneAt: (number | undefined)[];
  readonly spoilt: boolean;
  /** The last answer to "is it ready?" since the last step, ms. */
  readonly asked?: { readonly at: number; readonly ready: boolean };
  /** The planned wait as it is in the air of the day, minutes, where the plan does not vary it. */
  readonly plannedMin?: number;
  /** Codes of the patches whose ground is prepared in the same go, its own among them. */
  readonly preparedWith: readonly string[];
}

/** A trial's records folded once, so that asking what comes next is quick. */
export interface Bench {
  readonly air: Air;
  readonly lines: readonly BenchLine[];
}

/** Folds a plan and its records. */
export function benchOf(plan: TrialPlan, records: readonly TrialRecord[]): Bench {
  const times = new Map<string, number>();
  const asked = new Map<string, { at: number; ready: boolean }>();
  let shortWaitMin: number | undefined;
  const spoilt = new Set<string>();
  const kept = standing(records);
  for (const record of kept) {
    if (record.kind === 'step')
      for (const patch of [record.patch, ...(record.also ?? [])])
        times.set(`${patch} ${record.step} ${record.round}`, Date.parse(record.at));
    if (record.kind === 'spoilt' && record.patch) spoilt.add(record.patch);
    if (record.kind === 'ready')
      asked.set(`${record.patch} ${record.step} ${record.round}`, {
        at: Date.parse(record.at),
        ready: record.ready,
      });
    if (record.kind === 'air') shortWaitMin = record.waitMin;
  }
  const air = airOf(plan, kept);
  const varied = plan.factors.some(f => f.key === 'dryHours');
  // What was planned for one air takes longer in a damper one; a wait that is compared is kept as it is.
  const moves = dryingFactor(air) / dryingFactor(plan.air);
  const goes = preparedTogether(plan);
  const lines = plan.patches.map(patch => {
    const chain = chainOf(plan, patch);
    const doneAt = chain.map(link => times.get(`${patch.code} ${link.step.id} ${link.round}`));
    const next = chain.find((_, i) => doneAt[i] === undefined);
    const answer = next && asked.get(`${patch.code} ${next.step.id} ${next.round}`);
    const settings = settingsOf(plan, patch);
    return {
      patch,
      settings,
      chain,
      doneAt,
      spoilt: spoilt.has(patch.code),
      preparedWith: goes.get(patch.code) ?? [patch.code],
      ...(answer ? { asked: answer } : {}),
      ...(varied ? {} : { plannedMin: shortWaitMin ?? settings.dryHours * 60 * moves }),
    };
  });
  return { air, lines };
}

/** Where one patch stands at a moment (ms). */
export function patchStatus(line: BenchLine, air: Air, now: number): PatchStatus {
  const { chain, doneAt } = line;
  const at = chain.findIndex((_, i) => doneAt[i] === undefined);
  const lastIndex = at < 0 ? chain.length - 1 : at - 1;
  const last = lastIndex >= 0 ? chain[lastIndex] : undefined;
  if (line.spoilt) return { phase: 'spoilt', last };
  if (at < 0) return { phase: 'finished', last };
  const next = chain[at];
  const wait = last && waitAfter(last.step, line.settings, air, line.plannedMin);
  const from = doneAt[lastIndex];
  if (from === undefined || !wait) return { phase: 'to do', next, last };
  const window = answered(
    { opens: from + wait.min * MIN, aim: from + wait.aim * MIN, closes: from + wait.max * MIN },
    from,
    line.asked,
  );
  const phase = now < window.opens ? 'waiting' : now > window.closes ? 'overdue' : 'ready';
  return { phase, next, window, last };
}

/** How much longer, as a share of what it has waited, a piece is given that was found not ready. */
const MORE = 0.25;

/** The window after somebody looked: ready means now, not ready means a quarter longer than it has had. */
function answered(window: Window, from: number, asked: BenchLine['asked']): Window {
  if (!asked) return window;
  const { at, ready } = asked;
  if (ready)
    return {
      opens: Math.min(window.opens, at),
      aim: Math.min(window.aim, at),
      closes: Math.max(window.closes, at),
    };
  const again = at + MORE * (at - from);
  const aim = Math.max(window.aim, again);
  return {
    opens: Math.max(window.opens, again),
    aim,
    closes: Math.max(window.closes, aim + (window.closes - window.aim)),
  };
}

/** The one thing that needs hands, or the next moment when something will. */
export type Action =
  | {
      readonly kind: 'do';
      readonly patch: Patch;
      readonly status: PatchStatus;
      readonly link: Link;
      readonly why: string;
      /** When the plan of the work has it, ms; nothing without a plan. */
      readonly planned?: number;
    }
  | {
      readonly kind: 'wait';
      readonly patch: Patch;
      readonly status: PatchStatus;
      readonly link: Link;
      readonly until: number;
    }
  | { readonly kind: 'finished' };

const SHORT_WINDOW = 20 * MIN;

/**
 * What to do next with one pair of hands. A wait shorter than 20 minutes is finished before
 * anything else is begun (a coat must not skin over while another patch is coated); then what is
 * overdue or ready, the soonest to close first; then new work: marking before everything, after
 * that in the plan's randomised order.
 */
export function nextAction(bench: Bench, now: number): Action {
  const open = bench.lines.flatMap(line => {
    const status = patchStatus(line, bench.air, now);
    return status.next ? [{ patch: line.patch, status, link: status.next }] : [];
  });
  const act = (found: (typeof open)[number], why: string): Action => ({ kind: 'do', ...found, why });
  const soonest = (list: typeof open) =>
    [...list].sort(
      (a, b) =>
        (a.status.window?.closes ?? 0) - (b.status.window?.closes ?? 0) || a.patch.order - b.patch.order,
    )[0];

  const short = open.filter(
    o => o.status.window && o.status.window.closes - o.status.window.opens < SHORT_WINDOW,
  );
  if (short.length) return act(soonest(short), 'Its window is short.');
  const ready = open.filter(
    o => o.status.phase === 'overdue' || (o.status.phase === 'ready' && now >= o.status.window!.aim),
  );
  if (ready.length) return act(soonest(ready), 'Its time has come.');
  const fresh = open.filter(o => o.status.phase === 'to do');
  if (fresh.length) {
    const unmarked = fresh.filter(o => o.link.step.id === 'mark');
    const pool = unmarked.length ? unmarked : fresh;
    return act([...pool].sort((a, b) => a.patch.order - b.patch.order)[0], 'Next in the order of work.');
  }
  if (!open.length) return { kind: 'finished' };
  const first = [...open].sort((a, b) => a.status.window!.aim - b.status.window!.aim)[0];
  return { kind: 'wait', ...first, until: first.status.window!.aim };
}
