import { type Case, decide } from '../models/index.ts';
import type { Progress } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import { joined, points, say, sure, type Words, within } from '../say/index.ts';
import { factorIn, levelName, methodsOf, NO_LEVEL, namesOf, nestOf, type TrialPlan } from '../trial/index.ts';
import { toldBy } from './analyse.ts';
import { sharedIn } from './shared.ts';
import { choicesOf, SETTLED } from './words.ts';

/** With what a plan is rehearsed. */
export interface RehearsalAsk {
  /** How much better the best level of a factor really is, points landed. */
  readonly lead: number;
  /** Standard deviation of patches made alike, points. */
  readonly scatter: number;
  /** The same of what patches on a board, a strip or in a load share. */
  readonly shared: number;
  /** Share of patches that do not work, whatever is tried. */
  readonly fails: number;
  readonly runs?: number;
  readonly seed?: number;
}

/** What a plan would do: of each factor how often the really best level is named, and how often any would be where nothing differs. */
export interface Rehearsal {
  readonly lead: number;
  readonly runs: number;
  readonly factors: readonly {
    readonly factor: number;
    readonly name: string;
    /** Nothing where the plan can never tell its levels apart. */
    readonly named?: number;
    /** How often another level is named instead. */
    readonly wrong?: number;
  }[];
  /** How often the trial names anything at all where nothing makes a difference; and how often as firm. */
  readonly falsely: number;
  readonly firmly: number;
}

const RUNS = 140;
/** So many for larger plans, which take longer: then a share is known to about ±5 in a hundred. */
const FEWER_RUNS = 100;
const LARGE = 30;
const DRAWS = 300;
const WARM_UP = 100;
/** Patches of a usual trial land so much, %. */
const USUAL = 80;

/**
 * Rehearses a plan: made-up results by its own patches, boards, strips and loads, judged by the very rule that will judge
 * the trial. For each factor one level is really better by `lead`; and once nothing is. The same seed gives the same.
 *
 * @param tell hears how far it is, and may stop it.
 * @example rehearse(plan, { lead: 30, scatter: 3, shared: 1, fails: 0, runs: 4 }).runs; // => 4
 */
export function rehearse(plan: TrialPlan, ask: RehearsalAsk, tell: Progress = () => {}): Rehearsal {
  const chance = chanceFrom(ask.seed ?? 20_261_126);
  const patches = plan.patches.filter(p => p.levels.length);
  const runs = ask.runs ?? (patches.length > LARGE ? FEWER_RUNS : RUNS);
  const shared = sharedIn(plan);
  const shares = patches.map(p => shared.of(p));
  const model = {
    counts: plan.factors.map(f => f.levels.length),
    pairs: plan.design.interactions,
    nest: nestOf(plan.factors, methodsOf(plan)),
  };
  const told = toldBy(
    model,
    patches.map(p => p.levels),
  ).filter(f => f !== shared.whole);
  const options = [...new Map(patches.map(p => [p.levels.join(), p.levels])).values()];
  const total = (told.length + 1) * runs;
  let done = 0;
  const play = (better: number, level: number) => {
    const shifts = shared.random.map(() => new Map<string, number>());
    const failed = patches.map(() => chance.next() < ask.fails);
    const cases = patches.flatMap((p, i): Case[] => {
      const together = shares[i].reduce((sum, name, k) => {
        if (!shifts[k].has(name)) shifts[k].set(name, ask.shared * chance.normal());
        return sum + shifts[k].get(name)!;
      }, 0);
      const value =
        USUAL + (p.levels[better] === level ? ask.lead : 0) + together + ask.scatter * chance.normal();
      return failed[i] ? [] : [{ levels: p.levels, value, shares: shares[i] }];
    });
    tell(++done / total, 'Rehearsing');
    if (cases.length < 2) return [];
    const decision = decide({
      ...{ model, cases, options, better: 'high' },
      // As the trial itself will be judged: also where none failed.
      failure: { cases: patches.map((p, i) => ({ levels: p.levels, failed: failed[i] })), worth: 0 },
      draws: DRAWS,
      warmUp: WARM_UP,
      seed: done,
    });
    return choicesOf({ decision, told }).filter(c => c.sure >= SETTLED);
  };
  const factors = plan.factors.map((factor, f) => {
    const name = factorIn(plan, factor.key);
    if (!told.includes(f)) return { factor: f, name };
    let [named, wrong] = [0, 0];
    for (let run = 0; run < runs; run++) {
      const level = run % factor.levels.length;
      const choice = play(f, level).find(c => c.factor === f);
      if (choice?.level === level) named++;
      else if (choice) wrong++;
    }
    return { factor: f, name, named: named / runs, wrong: wrong / runs };
  });
  let [falsely, firmly] = [0, 0];
  for (let run = 0; run < runs; run++) {
    const choices = play(-1, NO_LEVEL);
    if (choices.length) falsely++;
    if (choices.some(c => c.firm)) firmly++;
  }
  return { lead: ask.lead, runs, factors, falsely: falsely / runs, firmly: firmly / runs };
}

/** How much less and more patches may differ than is assumed, and in how many runs that is looked at. */
const OTHER_SCATTERS = [0.5, 2] as const;
const OTHER_RUNS = 40;

/** A rehearsal with another scatter than is assumed. */
export interface OtherScatter {
  readonly scatter: number;
  readonly found: Rehearsal;
}

/**
 * {@link rehearse} with half and with twice the scatter that is assumed, in fewer runs: what is promised rests on it, and
 * it is a guess until like patches were measured.
 *
 * @example rehearseOthers(plan, { lead: 30, scatter: 3, shared: 1, fails: 0, runs: 2 }).map(o => o.scatter); // => [1.5, 6]
 */
export const rehearseOthers = (
  plan: TrialPlan,
  ask: RehearsalAsk,
  tell: Progress = () => {},
): readonly OtherScatter[] =>
  OTHER_SCATTERS.map((times, i) => {
    const scatter = times * ask.scatter;
    const runs = Math.min(ask.runs ?? OTHER_RUNS, OTHER_RUNS);
    const other = { ...ask, scatter, shared: times * ask.shared, runs };
    return { scatter, found: rehearse(plan, other, (share, word) => tell((i + share) / 2, word)) };
  });

/**
 * What other scatters would do to the promise, in a sentence; nothing where the plan can tell nothing anyway.
 *
 * @example scatterWords(plan, []); // => undefined
 */
export function scatterWords(plan: TrialPlan, others: readonly OtherScatter[]): Words | undefined {
  const said = others.flatMap(({ scatter, found }) => {
    const named = found.factors.flatMap(f =>
      f.named === undefined
        ? []
        : [say`${within(factorIn(plan, plan.factors[f.factor].key))} ${inTen(f.named)}`],
    );
    return named.length ? [say`by ${pointsTo1(scatter)}, it names ${joined(named, ', ')}`] : [];
  });
  return said.length && said.length === others.length
    ? say`Were patches made alike to differ ${joined(said, '; ')}.`
    : undefined;
}

/** Points, to one place where they have one. */
const pointsTo1 = (value: number) =>
  points(value, { places: Number.isInteger(Number(value.toFixed(1))) ? 0 : 1 });

const inTen = (share: number): string => {
  const times = Math.round(10 * share);
  if (times === 0) return 'hardly ever';
  return times === 10 ? 'almost always' : times === 1 ? 'once in 10' : `${times} times in 10`;
};

/**
 * A rehearsal in sentences, one for each factor and one for the trial in which nothing differs.
 *
 * @example rehearsalWords(plan, { lead: 8, runs: 60, factors: [], falsely: 0.1, firmly: 0 }); // => ['If nothing makes a difference, it will still lean to something once in 10, and call it firm hardly ever.']
 */
export function rehearsalWords(plan: TrialPlan, { lead, factors, falsely, firmly }: Rehearsal): Words[] {
  return [
    ...factors.map(({ factor, name, named, wrong }) => {
      const { key, levels } = plan.factors[factor];
      const one = levelName(namesOf(plan), key, levels[0]);
      if (named === undefined || wrong === undefined)
        return say`${name}: this plan can never tell its levels apart, whatever comes out.`;
      const other = wrong >= 0.05 ? `, and another instead ${inTen(wrong)}` : '';
      return say`${name}: if one (say ${one}) is really ${pointsTo1(lead)} better, this trial will name it, at least ${sure(0.8)} sure, ${inTen(named)}${other}.`;
    }),
    say`If nothing makes a difference, it will still lean to something ${inTen(falsely)}, and call it firm ${inTen(firmly)}.`,
  ];
}
