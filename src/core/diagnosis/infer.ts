import { joined, type Words } from '../say/index.ts';
import type { Cause, LikelihoodRatio } from './causes.ts';
import { inQuestion } from './gates.ts';
import { SHAPES, type SignalKey, type Signals, saidOf } from './signals.ts';

/** One piece of evidence that was met, in words, and how strongly it speaks. */
export interface Weighed {
  readonly say: Words;
  /** Natural log of the likelihood ratio; above 0 speaks for the cause. */
  readonly weight: number;
  readonly signal: string;
}

/** A cause with how likely it is to be at work, alone or with another. */
export interface Inferred {
  readonly cause: Cause;
  readonly likely: number;
  readonly met: readonly Weighed[];
}

/** How likely something is seen though nothing that is known brings it about. */
const LEAK = 0.12;
/** … and at most with a cause that does. */
const SURELY = 0.97;
/**
 * What speaks for or against a cause counts so many times as much as it is written down: strengths put into numbers from
 * words are cautious (temperature scaling: Guo and others 2017). Both simulated failures and cases told in words were
 * truer to their chances with it.
 */
const SHARPER = 1.6;
/** Odds kept for what is not in the data. */
const SOMETHING_ELSE = Math.exp(-0.8);
/** Two pieces in three are taken to have nothing amiss, before they are looked at. */
const SOUND = 2;
/** What is kept for two causes at once, beside the odds of each. */
const BOTH = 0.5;

const holds = ({ above, below }: LikelihoodRatio, value: number): boolean =>
  (above === undefined || value > above) && (below === undefined || value < below);

/** What speaks, with the signal's value in the place that is left for it. */
const withValue = ({ say: text, signal }: LikelihoodRatio, value: number): Words =>
  joined(text.split('{}'), saidOf(signal, value));

/** The evidence of a cause that is met, in the order in which it is written down. */
export const metBy = (cause: Cause, signals: Signals): Weighed[] =>
  cause.evidence.flatMap(e => {
    const value = signals[e.signal];
    return value !== undefined && holds(e, value)
      ? [{ say: withValue(e, value), weight: e.weight, signal: e.signal }]
      : [];
  });

/** What one cause makes of each signal: the sum of its weights there. */
function bySignal(met: readonly Weighed[]): Map<string, number> {
  const out = new Map<string, number>();
  for (const m of met) out.set(m.signal, (out.get(m.signal) ?? 0) + SHARPER * m.weight);
  return out;
}

/**
 * How much likelier what was seen is under some causes together than under none. What speaks for a cause is brought about
 * by any of them (noisy-or: Pearl 1988, §4.3.2), so that two that explain the same thing gain little from each other; what
 * speaks against a cause is missing in spite of each of them.
 */
function ratioOf(sets: readonly ReadonlyMap<string, number>[]): number {
  const signals = new Set(sets.flatMap(s => [...s.keys()]));
  let log = 0;
  for (const signal of signals) {
    let missed = 1 - LEAK;
    for (const set of sets) {
      const weight = set.get(signal) ?? 0;
      if (weight < 0) log += weight;
      if (weight > 0) missed *= 1 - (Math.min(SURELY, LEAK * Math.exp(weight)) - LEAK) / (1 - LEAK);
    }
    const own = sets.filter(s => (s.get(signal) ?? 0) > 0);
    // A single cause speaks with its full weight, however strong.
    log += own.length === 1 ? own[0].get(signal)! : own.length ? Math.log((1 - missed) / LEAK) : 0;
  }
  return log;
}

/** What may be at work: none that is known, one, or two at once. */
interface World {
  readonly causes: readonly number[];
  weight: number;
}

/** A question that was answered: how it changes the odds of a cause. */
export interface Answered {
  readonly cause: string;
  /** Whether what it asks about is there; nothing when nobody could tell. */
  readonly yes: boolean | undefined;
}

/** A look at the tell-tale of a cause is right so often. */
const SEEN_WITH = 0.88;
const SEEN_WITHOUT = 0.1;

function worldsOf(causes: readonly Cause[], signals: Signals, answers: readonly Answered[], sound: number) {
  const known = causes.filter(c => inQuestion(c, signals));
  const met = known.map(c => metBy(c, signals));
  const sets = met.map(bySignal);
  const odds = known.map(c => Math.exp(c.prior));
  // What little a usual hand loses comes of the same causes, each as often as it comes, and has their shapes.
  const shapes = sets.map(set =>
    ratioOf([new Map([...set].filter(([signal]) => SHAPES.has(signal as SignalKey)))]),
  );
  const usual = odds.reduce((sum, o, i) => sum + o * Math.exp(shapes[i]), 0);
  const worlds: World[] = [
    { causes: [], weight: SOMETHING_ELSE },
    { causes: [], weight: sound * SOUND * usual },
  ];
  for (let a = 0; a < known.length; a++) {
    worlds.push({ causes: [a], weight: odds[a] * Math.exp(ratioOf([sets[a]])) });
    for (let b = a + 1; b < known.length; b++)
      worlds.push({
        causes: [a, b],
        weight: BOTH * odds[a] * odds[b] * Math.exp(ratioOf([sets[a], sets[b]])),
      });
  }
  for (const { cause, yes } of answers) {
    const at = known.findIndex(c => c.id === cause);
    if (at < 0 || yes === undefined) continue;
    for (const w of worlds) {
      const seen = w.causes.includes(at) ? SEEN_WITH : SEEN_WITHOUT;
      w.weight *= yes ? seen : 1 - seen;
    }
  }
  const total = worlds.reduce((sum, w) => sum + w.weight, 0);
  for (const w of worlds) w.weight /= total;
  return { known, met, worlds };
}

/** What is inferred from some signals. */
export interface Inference {
  /** The likeliest first; shares overlap where two may be at work at once. */
  readonly causes: readonly Inferred[];
  readonly somethingElse: number;
  /** Chance that nothing was amiss: a usual hand leaves as much. */
  readonly nothingWrong: number;
  /** What to look at next: the tell-tale of a cause and how many bits it is expected to tell between them. */
  readonly ask: readonly { readonly cause: Cause; readonly gain: number }[];
}

/**
 * Weighs every cause that comes into question, alone and with one other, and what look would tell most between them
 * (expected information: Lindley 1956).
 *
 * @param answers what was looked at already.
 * @param sound how much likelier what was read is on a piece on which nothing was amiss than on one that failed.
 */
export function infer(
  causes: readonly Cause[],
  signals: Signals,
  answers: readonly Answered[] = [],
  sound = 0,
): Inference {
  const { known, met, worlds } = worldsOf(causes, signals, answers, sound);
  const likely = known.map((_, i) =>
    worlds.reduce((sum, w) => sum + (w.causes.includes(i) ? w.weight : 0), 0),
  );
  const bits = (p: number) => (p > 0 && p < 1 ? -p * Math.log2(p) - (1 - p) * Math.log2(1 - p) : 0);
  const unsure = bits(SEEN_WITH);
  const idle = bits(SEEN_WITHOUT);
  const ask = known.flatMap((cause, i) => {
    if (answers.some(a => a.cause === cause.id)) return [];
    const yes = likely[i] * SEEN_WITH + (1 - likely[i]) * SEEN_WITHOUT;
    const gain = bits(yes) - likely[i] * unsure - (1 - likely[i]) * idle;
    return [{ cause, gain }];
  });
  return {
    causes: known
      .map((cause, i) => ({ cause, likely: likely[i], met: met[i] }))
      .sort((a, b) => b.likely - a.likely),
    somethingElse: worlds[0].weight,
    nothingWrong: worlds[1].weight,
    ask: ask.sort((a, b) => b.gain - a.gain),
  };
}
