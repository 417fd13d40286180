import type { Does } from './deeds.ts';
import type { Method, Wait } from './schema.ts';

type Loose = Record<string, unknown>;

/**
 * A method as earlier versions kept it, with what they did not say: what each step does (as the step of that name does
 * in the method it comes from, or in any), whether hands stay with it, and the traits of the method it comes from. Anything else is left as it is.
 */
export function upgradeMethod(data: unknown, known: readonly Method[]): unknown {
  if (typeof data !== 'object' || data === null) return data;
  const method = data as Loose;
  const origin = known.find(m => m.id === (method.copiedFrom ?? method.id));
  const all = [...(origin?.steps ?? []), ...known.flatMap(m => m.steps)];
  const does = (id: unknown): Does => all.find(s => s.id === id)?.does ?? 'other';
  const holds = (id: unknown): boolean => origin?.steps.find(s => s.id === id)?.holds ?? false;
  const steps = Array.isArray(method.steps)
    ? method.steps.map(step =>
        isLoose(step)
          ? {
              ...step,
              does: step.does || does(step.id),
              holds: step.holds ?? holds(step.id),
              wait: waitNow(step.wait, origin?.steps.find(s => s.id === step.id)?.wait),
            }
          : step,
      )
    : method.steps;
  const { traits, simulated, start } = origin ?? {};
  return { traits, simulated, ...(start ? { start } : {}), ...method, steps };
}

/** A fixed wait that did not say whether something dries in it: as in the step it comes from. */
const waitNow = (wait: unknown, origin: Wait | undefined): unknown =>
  isLoose(wait) && wait.kind === 'fixed' && wait.dries === undefined
    ? { ...wait, dries: origin?.kind === 'fixed' && origin.dries }
    : wait;

const isLoose = (data: unknown): data is Loose => typeof data === 'object' && data !== null;
