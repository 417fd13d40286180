import type { Spans } from './spans.ts';

/** Time between the end of one action and the start of the next, ms. */
export interface Gap {
  readonly min: number;
  readonly aim: number;
  readonly max: number;
  /** Up to here later is as good as the aim; without it only the aim itself is. */
  readonly until?: number;
}

/** Something that is mixed or warmed for several patches at once and has to be used up in time. */
export interface Batch {
  readonly key: string;
  /** Hands it takes to make it ready, ms. */
  readonly make: number;
  /** How long it can be used once it is ready, ms. */
  readonly lasts: number;
  /** Patches it is enough for. */
  readonly serves: number;
}

/** One action on one patch. */
export interface Op {
  readonly id: string;
  /** Hands it takes, ms. */
  readonly hands: number;
  /** From the end of this action to the start of the next; without it the next may come at any time after. */
  readonly gap?: Gap;
  /** What the brush is dipped into; another medium after it costs a wash. */
  readonly brush?: string;
  /** An oven or a drying place that is taken from the start of this action to the start of the next. */
  readonly place?: string;
  /** What is in the hands all the while and there is only so much of: an iron, a heat gun. */
  readonly tool?: string;
  readonly batch?: Batch;
  /** Actions of several jobs with the same word are one: what happens to a piece as a whole. */
  readonly together?: string;
}

/** A patch's actions still to be done, one after the other. */
export interface Job {
  readonly id: string;
  readonly ops: readonly Op[];
  /** When the first of them may, should and must start, ms since the epoch; nothing when it may at any time. */
  readonly first?: {
    readonly from: number;
    readonly aim: number;
    readonly to: number;
    readonly until?: number;
  };
  /**
   * Where its turn is: of two jobs with the same `queue`, the one with the lower number does its action number
   * `begins` first. Nothing when it may come at any time or was begun already.
   */
  readonly turn?: { readonly queue: string; readonly number: number; readonly begins: number };
}

/** One pair of hands and when it is there. */
export interface Hands {
  readonly name: string;
  readonly there: Spans;
  /** What its brush was in last. */
  readonly brush?: string;
}

/** Who does what when, as a question: find a start for every action. All times are whole ms since the epoch. */
export interface Workload {
  readonly jobs: readonly Job[];
  readonly hands: readonly Hands[];
  /** Nothing starts before this. */
  readonly now: number;
  /** How many patches each place holds, and how many of a tool there are. */
  readonly places: Readonly<Record<string, number>>;
  /** Hands it takes to wash a brush, ms. */
  readonly wash: number;
  /** Patches that lie in a place already: from before `now` until their first action starts. */
  readonly lying?: Readonly<Record<string, string>>;
  /** Batches that are made already and not used up. */
  readonly made?: readonly Made[];
}

/** A batch that was made and how much of it is used. */
export interface Made {
  readonly batch: Batch;
  readonly ready: number;
  readonly until: number;
  readonly used: number;
}

/** Something hands are busy with. */
export interface Busy {
  readonly from: number;
  readonly to: number;
  readonly what: 'op' | 'wash' | 'make';
  readonly job?: string;
  readonly op?: number;
  readonly brush?: string;
  /** Number of the batch that is made, or used. */
  readonly batch?: number;
}

/** A start for every action. */
export interface Schedule {
  /** Start of every action of every job, ms since the epoch, in the order of the problem. */
  readonly starts: readonly (readonly number[])[];
  /** Whose hands do it: their place in the list of hands, in the order of `starts`. */
  readonly who: readonly (readonly number[])[];
  /** What each pair of hands does, in order of time. */
  readonly busy: readonly (readonly Busy[])[];
  /** End of the last action. */
  readonly end: number;
  /** Sum of how far actions start from their best moments, ms. */
  readonly off: number;
  /** Time from now to the end plus `off`: what was made small. No schedule can cost less than `bound`. */
  readonly cost: number;
  readonly bound: number;
  readonly washes: number;
}
