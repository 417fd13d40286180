import { joined, type Words, write } from '../say/index.ts';
import type { ProblemCode } from './codes.ts';

export { PROBLEM_CODES, type ProblemCode } from './codes.ts';

/** What went wrong, as a value: a stable code for programs and a sentence in the user's words. */
export interface Problem {
  readonly code: ProblemCode;
  /** One plain sentence: what is wrong. */
  readonly say: Words;
  /** One plain sentence: the way out. */
  readonly wayOut?: Words;
  /** A board that would do, mm, where the size of the board is what is wrong. */
  readonly board?: { readonly w: number; readonly h: number };
  /** The rule that stops it, by its id. */
  readonly rule?: string;
  /** The job that does not fit into a schedule. */
  readonly job?: string;
}

/** Either a value or a {@link Problem}; nothing that a user can cause is thrown. */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problem: Problem };

/**
 * Wraps a value as a success.
 *
 * @example good(3); // => { ok: true, value: 3 }
 */
export const good = <T>(value: T): Outcome<T> => ({ ok: true, value });

/**
 * Wraps a problem as a failure.
 *
 * @example bad('no-room', 'There is no room.').problem.say; // => 'There is no room.'
 */
export const bad = (
  code: ProblemCode,
  say: Words,
  wayOut?: Words,
  more: Pick<Problem, 'board' | 'rule' | 'job'> = {},
): Outcome<never> => ({
  ok: false,
  problem: { code, say, ...(wayOut ? { wayOut } : {}), ...more },
});

/**
 * What is wrong and the way out of it, in a row.
 *
 * @example problemWords({ code: 'room', say: 'It is full.', wayOut: 'Make room.' }); // => 'It is full. Make room.'
 */
export const problemWords = ({ say: wrong, wayOut }: Pick<Problem, 'say' | 'wayOut'>): Words =>
  wayOut ? joined([wrong, wayOut], ' ') : wrong;

/** Long work tells how far it is (0–1) and is asked whether to go on; it throws {@link Cancelled} when told to stop. */
export type Progress = (share: number, word: string) => void;

/** Thrown out of long work that the user cancelled. */
export class Cancelled extends Error {
  constructor() {
    super('Cancelled');
    this.name = 'Cancelled';
  }
}

/** A {@link Problem} that has to be thrown: what storage, a file or a server refused. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(write(problem.say));
    this.name = 'ProblemError';
    this.problem = problem;
  }
}
