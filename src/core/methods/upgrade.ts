import { FROZEN, type FrozenStep } from './frozen.ts';

type Loose = Record<string, unknown>;

/**
 * A method as earlier versions kept it, with what they did not say: what each step does (as the step of that name does
 * in the method it comes from, or in any), whether hands stay with it, and the traits of the method it comes from, all
 * as they were when methods began to say so. Anything else is left as it is; what comes of it is checked by
 * `checkMethod` or by the plan that holds it.
 *
 * @example asNow({ id: 'own', steps: [{ id: 'rub' }] }).steps[0].does; // => 'rub'
 */
export function asNow(data: unknown): unknown {
  if (typeof data !== 'object' || data === null) return data;
  const method = data as Loose;
  const origin = FROZEN.find(m => m.id === (method.copiedFrom ?? method.id));
  const all = [...(origin?.steps ?? []), ...FROZEN.flatMap(m => m.steps)];
  const own = (id: unknown): FrozenStep | undefined => origin?.steps.find(s => s.id === id);
  const found = Array.isArray(method.steps)
    ? method.steps.map(step =>
        isLoose(step)
          ? {
              ...step,
              does: step.does || (all.find(s => s.id === step.id)?.does ?? 'other'),
              holds: step.holds ?? own(step.id)?.holds ?? false,
              reverses: step.reverses ?? own(step.id)?.reverses ?? false,
              faceUp: step.faceUp ?? own(step.id)?.faceUp ?? [],
              wait: waitNow(step.wait, own(step.id)?.dries),
            }
          : step,
      )
    : method.steps;
  const steps = Array.isArray(found) ? asMirrored(found, method) : found;
  const { traits, start, mirrorNote } = origin ?? {};
  return {
    ...{ traits, mirrorNote },
    ...(start ? { start } : {}),
    ...method,
    steps,
  };
}

/**
 * Steps that turn the picture over as the maker had the mirror set, where the method said no more than that: one turn
 * more or less. Where it is turned over twice the mirror was wrong, whoever set it.
 */
function asMirrored(steps: readonly unknown[], method: Loose): readonly unknown[] {
  const isOld =
    Array.isArray(method.steps) && method.steps.every(s => isLoose(s) && s.reverses === undefined);
  const turning = steps.filter(s => isLoose(s) && s.reverses);
  if (!isOld || typeof method.mirror !== 'boolean' || turning.length > 1) return steps;
  if ((turning.length === 1) === method.mirror) return steps;
  const places = steps.findLast(s => isLoose(s) && s.does === 'place') ?? steps.at(-1);
  return steps.map(s => (s === (turning[0] ?? places) && isLoose(s) ? { ...s, reverses: method.mirror } : s));
}

/** A fixed wait that did not say whether something dries in it: as in the step it comes from. */
const waitNow = (wait: unknown, dries = false): unknown =>
  isLoose(wait) && wait.kind === 'fixed' && wait.dries === undefined ? { ...wait, dries } : wait;

const isLoose = (data: unknown): data is Loose => typeof data === 'object' && data !== null;
