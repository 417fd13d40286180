import { agree } from '../say/index.ts';
import type { DonorKind } from '../shelf/index.ts';
import type { Method, Step } from './schema.ts';

interface Turning extends Pick<Step, 'action'> {
  readonly reverses?: boolean | undefined;
  readonly faceUp?: readonly DonorKind[] | undefined;
}

/**
 * The steps that turn the picture over between the print and the eye: each face-down contact that leaves it behind is
 * one turn (docs/HANDBOOK.md §3, “Mirror rule”). With a sheet that lies face up at a step, that one is none.
 *
 * @example turns(methods[0].steps).map(step => step.action); // => ['Place the print']
 */
export const turns = <S extends Turning>(steps: readonly S[], donor?: DonorKind): S[] =>
  steps.filter(step => step.reverses && !(donor && step.faceUp?.includes(donor)));

/**
 * Whether a sheet of this kind is printed mirrored: an odd count of turns needs it. The method itself says it for its
 * usual sheets, as it was when the trial's sheets were printed.
 *
 * @example mirrors(methods[0], 'plain paper'); // => true
 */
export function mirrors(method: Pick<Method, 'mirror' | 'steps'>, donor?: DonorKind): boolean {
  const facingUp = turns(method.steps).length - turns(method.steps, donor).length;
  return method.mirror !== (facingUp % 2 === 1);
}

const TIMES = ['', 'once', 'twice', 'three times', 'four times'];
const quoted = (steps: readonly Turning[]) => steps.map(step => `“${step.action}”`).join(' and ');

/** The count in a sentence, and what follows from it. */
function counted(found: readonly Turning[], note: string | undefined): string {
  const n = found.length;
  const then =
    n === 0
      ? 'Nothing turns the picture over. Do not mirror it.'
      : `${quoted(found)} ${agree(n, 'turns', 'turn')} the picture over: ${TIMES[n] ?? `${n} times`}, so it ${
          n % 2
            ? 'lands reversed. It is printed mirrored to come out right.'
            : 'comes out right again. Do not mirror it.'
        }`;
  return note ? `${note} ${then}` : then;
}

/**
 * A method with what follows from its steps: whether it is mirrored, and why.
 *
 * @example withMirror({ ...methods[0], steps: [] }).mirror; // => false
 */
export function withMirror<
  M extends { readonly steps: readonly Turning[]; readonly mirrorNote?: string | undefined },
>(method: M): M & Pick<Method, 'mirror' | 'mirrorReason'> {
  const found = turns(method.steps);
  return { ...method, mirror: found.length % 2 === 1, mirrorReason: counted(found, method.mirrorNote) };
}

/**
 * Why a sheet of this kind is mirrored or not, in a sentence.
 *
 * @example mirrorReason(methods[0], 'plain paper') === methods[0].mirrorReason; // => true
 */
export function mirrorReason(
  method: Pick<Method, 'steps' | 'mirrorReason' | 'mirrorNote'>,
  donor?: DonorKind,
): string {
  const found = turns(method.steps, donor);
  if (found.length === turns(method.steps).length) return method.mirrorReason;
  const up = turns(method.steps).filter(step => !found.includes(step));
  return counted(found, `At ${quoted(up)} this sheet lies face up.`);
}
