import type { Step } from '../methods/index.ts';
import type { PatchSettings } from '../trial/index.ts';
import { type Air, dryingFactor } from '../units/index.ts';

/**
 * Minutes until a coat turns tacky: the medium's open time on a closed ground, longer for a thicker
 * coat, shorter on a thirsty ground and in dry warm air (docs/HANDBOOK.md §3, method 1, and §5).
 *
 * @example openMinutes(settings, air) < openMinutes({ ...settings, coatMm: 0.6 }, air); // => true
 */
export function openMinutes(settings: PatchSettings, air: Air): number {
  const thirst = Math.min(1, settings.substrate.thirst * settings.preparation.thirstTimes);
  const thickness = Math.min(2.5, Math.max(0.5, settings.coatMm / 0.3));
  return settings.medium.openMin * thickness * (1 - 0.55 * thirst) * Math.sqrt(dryingFactor(air));
}

/** A wait shorter than this is stood through with the next thing in the hand; a longer one is left alone. Minutes. */
const SHORT_MIN = 20;

/**
 * Whether hands stay with a wait of so many minutes: under twenty. The one line between short and long waits.
 *
 * @example [19.9, 20].map(isShortWait); // => [true, false]
 */
export const isShortWait = (minutes: number): boolean => minutes < SHORT_MIN;

/**
 * Whether a window (ms) is so short that hands stay with it.
 *
 * @example isShortWindow({ opens: 0, closes: 20 * 60_000 }); // => false
 */
export const isShortWindow = (w: { readonly opens: number; readonly closes: number }): boolean =>
  isShortWait((w.closes - w.opens) / 60_000);

/** A window this many times as long as its best wait, with no harm known of its end, has no best moment but only an earliest. */
const NO_HURRY = 4;

/**
 * Whether coming later than the best moment, but within the window, does no harm: paint that has dried stays dry.
 *
 * Not so where the finish has to be coated again in time.
 *
 * @example laterIsFine(methods[0].steps[0], settings); // => false
 */
export function laterIsFine({ wait, tooLate }: Step, { finish }: Pick<PatchSettings, 'finish'>): boolean {
  if (wait.kind === 'preparation') return true;
  if (wait.kind === 'finish') return !isRecoated(finish);
  return wait.kind === 'fixed' && !tooLate && wait.max >= NO_HURRY * wait.aim;
}

/**
 * What hands have with a step and the wait after it, in minutes: where they stay with it until its best moment, that
 * counts as work, and what follows may come at once.
 *
 * @example handled({ holds: true }, 0.5, { min: 8, aim: 9, max: 12 }); // => { hands: 9.5, wait: { min: 0, aim: 0, max: 3 } }
 */
export function handled<W extends { min: number; aim: number; max: number }>(
  step: Pick<Step, 'holds'>,
  hands: number,
  wait: W | undefined,
): { hands: number; wait: W | { min: number; aim: number; max: number } | undefined } {
  if (!wait || !step.holds) return { hands, wait };
  return { hands: hands + wait.aim, wait: { min: 0, aim: 0, max: wait.max - wait.aim } };
}

/**
 * The wait after a step as minutes from its end, or nothing when the next step may follow at any time.
 *
 * @example waitAfter(methods[0].steps[4], settings, air); // => { min: 0.5, aim: 2, max: 8 }
 */
export function waitAfter(step: Step, settings: PatchSettings, air: Air, plannedMin?: number) {
  switch (step.wait.kind) {
    case 'none':
      return undefined;
    case 'fixed': {
      const { min, aim, max, dries } = step.wait;
      const times = dries ? dryingFactor(air) : 1;
      return { min: min * times, aim: aim * times, max: max * times };
    }
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
      const { finish } = settings;
      const times = 60 * dryingFactor(air);
      const aim = (finish?.waitHours ?? 0) * times;
      if (!aim) return undefined;
      const max = isRecoated(finish) ? Math.max(finish.recoatHours * times, aim) : aim * 50;
      return { min: aim * 0.8, aim, max };
    }
  }
}

/** Whether a finish goes on in several coats, each in time after the one before. */
const isRecoated = (finish: PatchSettings['finish']): finish is NonNullable<PatchSettings['finish']> =>
  finish !== undefined && finish.coats > 1 && finish.recoatHours > 0;
