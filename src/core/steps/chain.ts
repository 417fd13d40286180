import type { Step } from '../methods/index.ts';
import { FINISHES, isOne, PREPARATIONS } from '../shelf/index.ts';
import {
  type OptionKey,
  type Patch,
  type PatchSettings,
  settingsOf,
  type TrialPlan,
} from '../trial/index.ts';
import { wearSteps } from './wear.ts';

/** One link of a patch's chain. */
export interface Link {
  readonly step: Step;
  readonly round: number;
}

/**
 * The steps a patch with these settings goes through once, in order, with the words that fit its choices.
 *
 * @example stepsFor({ ...plan, wear: ['bend'] }, settings).at(-2).does; // => 'wear'
 */
export function stepsFor(plan: Pick<TrialPlan, 'wear'>, settings: PatchSettings): Step[] {
  const fits = (when: Partial<Record<OptionKey, string[]>> = {}) =>
    Object.entries(when).every(([option, ids]) => ids.includes(settings[option as OptionKey]));
  const steps = settings.method.steps
    .filter(
      step =>
        (!step.onlyIfPrepared || !isOne(PREPARATIONS.nothing, settings.preparation.kind)) &&
        (!step.onlyIfFinished || (settings.finish && !isOne(FINISHES.nothing, settings.finish.kind))) &&
        fits(step.only),
    )
    .map(step => {
      const { kind } = settings.medium;
      const other = step.variants.find(v => fits(v.when) && (!v.mediums || v.mediums.includes(kind)));
      if (!other) return step;
      const { instruction, action = step.action, done = step.done } = other;
      return { ...step, instruction, action, done };
    });
  return [...steps, ...wearSteps(plan.wear)];
}

/**
 * Every step of a patch in order; the steps of a rubbing round come again for each round, the finish for each of its coats.
 *
 * @example chainOf(plan, patch).map(link => link.step.does).slice(0, 4); // => ['mark', 'coat', 'place', 'wet']
 */
export function chainOf(plan: TrialPlan, patch: Patch): Link[] {
  const settings = settingsOf(plan, patch);
  const once = settings.method.options.removal.find(o => o.id === settings.removal)?.once;
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
      again
        .filter(s => (s.eachRound || r === 0) && r + 1 >= s.fromRound)
        .map(step => ({ step, round: r + 1 })),
    ).flat(),
    ...steps.slice(last + 1).flatMap(times),
  ];
}

/**
 * Which time a step comes that comes several times, as `round 2 of 3` or `coat 1 of 4`; nothing where it comes once.
 *
 * @example whichTime(chainOf(plan, patch), chainOf(plan, patch)[0]); // => undefined
 */
export function whichTime(chain: readonly Link[], link: Link): string | undefined {
  const count = chain.filter(l => l.step.id === link.step.id).length;
  if (count < 2) return undefined;
  return `${link.step.eachRound ? 'round' : 'coat'} ${link.round} of ${count}`;
}
