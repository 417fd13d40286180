export { CAUTIONS, type Caution, type CautionId } from './cautions.ts';
export { WET_RUB } from './wet-rub.ts';

import type { CautionId } from './cautions.ts';
import { WET_RUB } from './wet-rub.ts';

/**
 * The wait between a step and the next one, in minutes from the step's end.
 * `open-time` takes its end from the medium and the ground, `planned-dry` its aim from the plan,
 * `preparation` from the preparation's own wait.
 */
export type Wait =
  | { readonly kind: 'none' }
  | { readonly kind: 'fixed'; readonly min: number; readonly aim: number; readonly max: number }
  | { readonly kind: 'open-time' }
  | { readonly kind: 'planned-dry'; readonly lo: number; readonly hi: number }
  | { readonly kind: 'preparation' };

/** One action of a method and the wait after it. */
export interface Step {
  readonly id: string;
  /** A verb: what the button says. */
  readonly action: string;
  readonly done: string;
  readonly instruction: string;
  readonly check?: string;
  readonly handsOnMin: number;
  readonly wait: Wait;
  readonly tooSoon?: string;
  readonly tooLate?: string;
  readonly cautions: readonly CautionId[];
  /** Steps that come again in every rubbing round. */
  readonly eachRound?: boolean;
  /** Left out when the patch's preparation is "nothing". */
  readonly onlyIfPrepared?: boolean;
}

/** A way of transferring (HANDBOOK §3) as data. */
export interface Method {
  readonly id: string;
  readonly name: string;
  readonly summary: string;
  readonly mirror: boolean;
  readonly mirrorReason: string;
  readonly steps: readonly Step[];
  readonly setUpCautions: readonly CautionId[];
}

const METHODS: readonly Method[] = [WET_RUB];

/** The method with this id; throws when a plan names one that is not known, which validation prevents. */
export function methodOf(id: string): Method {
  const method = METHODS.find(m => m.id === id);
  if (!method) throw new Error(`No method ${id}`);
  return method;
}
