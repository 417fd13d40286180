import { progressOf, type Trialled } from '../progress/index.ts';
import { handsOnMin } from '../steps/index.ts';

/**
 * A maker's own times: how the logarithm of taken over stated lies and scatters, and how often, and for how long, they
 * are called away in between.
 */
export interface Pace {
  readonly mean: number;
  readonly sd: number;
  /** Share of actions with an interruption, and its mean length, ms. */
  readonly away: number;
  readonly awayMs: number;
  /** How many steps it was learnt from. */
  readonly steps: number;
}

/** What is taken for a maker of whom nothing is known, and how many of their own steps that is worth. */
const PRIOR = { mean: 0, sd: 0.35, worth: 6, away: 0.08, awayMs: 180_000, awayWorth: 25 };
/** So many scatters above what is usual, and a minute, an action is taken for interrupted. */
const FAR = 2.5;
const MINUTE = 60_000;
/** What took less than this share of what is stated was pressed through afterwards, and says nothing of the pace. */
const PRESSED_THROUGH = 0.15;
/** Nobody is known so badly that more scatter than this has to be reckoned with. */
const MOST_SD = 0.8;
/** Nothing says more of an interruption than that it was long. */
const MOST_AWAY = 30 * MINUTE;
/** Median absolute deviation of a normal distribution, as a share of its standard deviation. */
const MAD = 0.6745;

const middle = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
};

/**
 * A maker's pace from the steps of which the beginning is known: those that stand out (more than 2.5 scatters by median and
 * median deviation, and more than a minute) are interruptions; the others give mean and scatter of ln(taken / stated). Both
 * with a prior, worth six and 25 steps (conjugate: Gelman et al., Bayesian Data Analysis, §2.5 and §3.3).
 *
 * @example paceOf([]).steps; // => 0
 */
export function paceOf(trials: readonly Trialled[]): Pace {
  const seen = trials.flatMap(trial =>
    progressOf(trial.plan, trial.records).lines.flatMap(line =>
      line.chain.flatMap(({ step }, i) => {
        const [from, to] = [line.begunAt[i], line.doneAt[i]];
        const stated = handsOnMin(step, line) * MINUTE;
        return from === undefined || to === undefined || stated <= 0 || to - from < PRESSED_THROUGH * stated
          ? []
          : [{ taken: to - from, stated, log: Math.log((to - from) / stated) }];
      }),
    ),
  );
  if (!seen.length) return { ...PRIOR, steps: 0 };
  const usual = middle(seen.map(s => s.log));
  const scatter = Math.max(
    0.1,
    middle(seen.map(s => Math.abs(s.log - usual))) / MAD,
    PRIOR.sd * (seen.length < 12 ? 1 : 0),
  );
  const excess = seen.map(s => s.taken - s.stated * Math.exp(usual));
  const isAway = seen.map((s, i) => s.log - usual > FAR * scatter && excess[i] > MINUTE);
  const logs = seen.flatMap((s, i) => (isAway[i] ? [] : [s.log]));
  const away = excess.flatMap((ms, i) => (isAway[i] ? [Math.min(MOST_AWAY, ms)] : []));
  const n = logs.length;
  const own = n ? logs.reduce((a, b) => a + b, 0) / n : PRIOR.mean;
  const square = logs.reduce((sum, x) => sum + (x - own) ** 2, 0);
  const { mean, sd, worth } = PRIOR;
  const between = ((worth * n) / (worth + n)) * (own - mean) ** 2;
  const times = PRIOR.away * PRIOR.awayWorth;
  return {
    mean: (worth * mean + n * own) / (worth + n),
    sd: Math.min(MOST_SD, Math.sqrt((worth * sd ** 2 + square + between) / (worth + n))),
    away: (times + away.length) / (PRIOR.awayWorth + seen.length),
    awayMs: (times * PRIOR.awayMs + away.reduce((a, b) => a + b, 0)) / (times + away.length),
    steps: seen.length,
  };
}
