import type { AsResponse } from '../measures/index.ts';
import { type Estimated, fitCases } from '../models/index.ts';
import type { Progress } from '../outcome/index.ts';
import { type Waited, waitsOf } from '../progress/index.ts';
import { joined, points, say, type Words, within } from '../say/index.ts';
import {
  about,
  airOf,
  factorIn,
  levelName,
  methodsOf,
  namesOf,
  nestOf,
  readingOf,
  type TrialPlan,
  type TrialRecord,
  type WearTest,
  wantedIn,
} from '../trial/index.ts';
import type { Analysis } from './analyse.ts';
import { checksOf } from './checks.ts';
import { type Dose, doseSentence, dosesIn } from './dose.ts';
import type { Effect } from './effect.ts';
import { DESIRED, type Wanted, worthOf } from './intent.ts';
import { KINDS, type Kind } from './kinds/index.ts';
import { AS_LOSS, lossesOf } from './losses.ts';
import { analysed, hasFailed, levelsAsDone, observations, strayedIn } from './seen.ts';
import { sharedIn } from './shared.ts';
import { type TradeOff, tradeOffsIn } from './trade-offs.ts';
import { nextSentence, type WhatNext, whatNext } from './what-next.ts';
import {
  chanceSentence,
  choicesOf,
  factorSentence,
  failureSentence,
  headline,
  pairSentence,
  SETTLED,
} from './words.ts';

export { type Analysis, type Asked, analyse, type Seen } from './analyse.ts';
export { findingsCsv } from './csv.ts';
export { type Dose, doseSentence, dosesIn } from './dose.ts';
export type { Effect } from './effect.ts';
export { DESIRED, type Desired, desirability, type Wanted, worthOf } from './intent.ts';
export { KINDS, type Kind, kindOf } from './kinds/index.ts';
export { AS_LOSS, type Loss, lossesOf } from './losses.ts';
export {
  type OtherScatter,
  type Rehearsal,
  type RehearsalAsk,
  rehearsalWords,
  rehearse,
  rehearseOthers,
  scatterWords,
} from './rehearse.ts';
export { hasFailed, type Observed, observations, observing } from './seen.ts';
export { type Shared, sharedIn } from './shared.ts';
export { type Found, findingsIn, Roles, type Row } from './table.ts';
export { type TradeOff, takenBy, tradeOffsIn } from './trade-offs.ts';
export { nextSentence, type WhatNext, whatNext } from './what-next.ts';
export {
  type Choice,
  choicesOf,
  factorSentence,
  failureSentence,
  headline,
  isEither,
  surePercent,
} from './words.ts';

/** What one factor does to how much a wear test takes off. */
export interface Lasting extends Omit<Effect, 'measure' | 'dots'> {
  readonly test: WearTest;
}

/** A combination that can be taken, with what is to be expected of it. */
export interface Choosable extends TradeOff {
  readonly name: Words;
  readonly landed?: Expected | undefined;
  readonly veil?: Expected | undefined;
}

interface Expected {
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
}

/** What two factors do together to what lands. */
export interface Joint {
  readonly factors: readonly [number, number];
  readonly names: readonly [string, string];
  readonly cells: readonly {
    readonly levels: readonly [number, number];
    readonly names: readonly [Words, Words];
    readonly mean: number;
    readonly lo: number;
    readonly hi: number;
    readonly n: number;
  }[];
  readonly sentence: Words;
}

export interface Findings {
  readonly effects: readonly Effect[];
  readonly measured: number;
  readonly missing: number;
  /** Patches that did not work: scrapped, given up because it failed, or with hardly anything landed. */
  readonly failed: number;
  /** How much failed, in words; empty where nothing did. */
  readonly failing: Words;
  /** What speaks against the fit: a stray patch, a drift along the work, uneven scatter. */
  readonly checks: readonly Words[];
  /** Patches that only a practice photo speaks of; they are all that counts, or, where others are real, left out. */
  readonly practice: { readonly patches: number; readonly counts: boolean };
  /** Patches that were not given the time of their level, and so say nothing of it: left out where it is compared. */
  readonly strayed: readonly Waited[];
  /** Patches that are not among those measured, and why. */
  readonly leftOut: readonly { readonly patch: string; readonly why: string }[];
  /** What pairs of factors do together, as far as that was asked: a mean and an interval for each two levels. */
  readonly pairs: readonly Joint[];
  /** What numbers do over all that was tried of them, each with its sentence. */
  readonly doses: readonly (Dose & { readonly name: string; readonly sentence: Words })[];
  /** Every combination with what it gives and what it takes. */
  readonly tradeOffs: readonly Choosable[];
  /** What wear takes off, by test and factor. */
  readonly lasting: readonly Lasting[];
  /** The few patches that would settle what is not settled. */
  readonly next?: WhatNext & { readonly sentence: Words };
  /** The combination to take, with what is expected of it. */
  readonly leading?: {
    readonly levels: readonly number[];
    readonly name: Words;
    readonly landed: { value: number; lo: number; hi: number };
    readonly veil?: { value: number; lo: number; hi: number };
    readonly patches: readonly string[];
    /** Chance that it is the best of all that were tried. */
    readonly sure: number;
    /** Every choice in it is settled. */
    readonly certain: boolean;
    /** The decision in a line or two. */
    readonly sentence: Words;
  };
  /** Why nothing can be said yet. */
  readonly why?: Words;
}

function practised(plan: TrialPlan, records: readonly TrialRecord[]): Findings['practice'] {
  const read = plan.patches.flatMap(p => (p.levels.length && readingOf(records, p.code)) || []);
  const patches = read.filter(r => r.photo.simulated).length;
  return { patches, counts: patches > 0 && patches === read.length };
}

const known = new WeakMap<readonly TrialRecord[], { readonly of: TrialPlan; readonly found: Findings }>();

/**
 * What a trial supports: the effect of each factor on every measure with 90 % intervals and one honest sentence each,
 * how much failed, and the decision. The same object for as long as nothing is recorded.
 *
 * @example findingsOf(plan, []).measured; // => 0
 */
export function findingsOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  tell: Progress = () => {},
): Findings {
  const before = known.get(records);
  if (before?.of === plan) return before.found;
  const found = findIn(plan, records, tell);
  known.set(records, { of: plan, found });
  return found;
}

/**
 * Findings that were worked out elsewhere for this plan and these records: {@link findingsOf} gives them from then on.
 */
export function keepFindings(plan: TrialPlan, records: readonly TrialRecord[], found: Findings): void {
  known.set(records, { of: plan, found });
}

/**
 * Findings that are there already; nothing where they would have to be worked out.
 *
 * @example findingsAtHand(plan, []); // => undefined
 */
export function findingsAtHand(plan: TrialPlan, records: readonly TrialRecord[]): Findings | undefined {
  const before = known.get(records);
  return before?.of === plan ? before.found : undefined;
}

interface Judged {
  readonly by: Kind;
  readonly values: ReadonlyMap<string, number>;
  readonly analysis: Analysis;
}

/** How much of the progress is for the responses; the rest for what would settle it. */
const FOR_RESPONSES = 0.6;

function findIn(plan: TrialPlan, records: readonly TrialRecord[], tell: Progress): Findings {
  const judged = KINDS.flatMap((by, i): Judged[] => {
    tell((FOR_RESPONSES * i) / KINDS.length, 'Weighing what was measured');
    const values = by.values(plan, records);
    const failed = by.failed?.(plan, records);
    // What nobody has measured is not asked about; failures alone are said of what landed.
    if (!values.size && by.id !== 'landed' && by.id !== 'veil') return [];
    const analysis = analysed(plan, records, {
      by,
      bounds: by.response.bounds,
      value: code => values.get(code),
      ...(failed ? { failed } : {}),
    });
    return [{ by, values, analysis }];
  });
  const landed = judged.find(j => j.by.id === 'landed')!.analysis;
  const veil = judged.find(j => j.by.id === 'veil')!.analysis;
  const named = levelsAsDone(plan, records);
  const strayed = strayedIn(plan, records);
  const found = {
    measured: landed.measured,
    missing:
      landed.missing +
      strayed.filter(w => plan.patches.some(p => p.code === w.patch && p.levels.length)).length,
    failed: landed.failures,
    failing: failureSentence(landed, named),
    checks: checksOf(landed, named),
    practice: practised(plan, records),
    strayed,
    lasting: lastingOf(plan, records),
    leftOut: leftOutOf(plan, records, landed),
  };
  if (!landed.fit)
    return {
      ...found,
      effects: [],
      doses: [],
      pairs: [],
      tradeOffs: [],
      why: landed.measured
        ? 'Not enough patches are read yet: at least one more dry reading is needed than there are effects.'
        : landed.failures
          ? 'Every patch failed: no option of this trial worked.'
          : 'No patch has a dry reading yet. Read the photos first.',
    };
  const effects = plan.factors.flatMap((_, f) =>
    judged.flatMap(({ by, values, analysis }) =>
      analysis.fit
        ? [{ measure: by.id, ...effectOf(plan, f, by, analysis, named), dots: dotsOf(plan, f, by, values) }]
        : [],
    ),
  );
  const worth = worthIn(plan, records, landed);
  const leading = leadingOf(plan, worth, { landed, veil }, named);
  const next = whatNext(worth, (share, words) => tell(FOR_RESPONSES + (1 - FOR_RESPONSES) * share, words));
  return {
    ...found,
    effects,
    doses: dosesOf(plan, records, landed),
    pairs: jointIn(plan, landed, named),
    tradeOffs: worth.decision
      ? tradeOffsIn(plan, worth.options, worth.decision, airOf(plan, records)).map(t => ({
          ...t,
          // What only ever failed is no choice, however quick it is.
          front: onlyFailed(worth, t.levels) ? 0 : t.front,
          name: combined(t.levels, named),
          landed: expected(landed.combination?.(t.levels)),
          veil: expected(veil.combination?.(t.levels)),
        }))
      : [],
    ...(leading
      ? {
          leading: {
            ...leading,
            sentence: joined([leading.sentence, ...(next ? [nextSentence(next)] : [])], ' '),
          },
        }
      : {}),
    ...(next ? { next: { ...next, sentence: nextSentence(next) } } : {}),
  };
}

/** The patches behind an effect; of what is yes or no a patch is all or nothing. */
const dotsOf = (
  plan: TrialPlan,
  f: number,
  { isChance, failed }: Kind,
  values: ReadonlyMap<string, number>,
): Effect['dots'] =>
  isChance || failed
    ? []
    : plan.patches.flatMap(({ code, levels }) => {
        const value = values.get(code);
        return value === undefined || levels[f] === undefined || levels[f] < 0
          ? []
          : [{ code, level: levels[f], value }];
      });

/** Why a patch is not among those measured. */
function leftOutOf(plan: TrialPlan, records: readonly TrialRecord[], landed: Analysis): Findings['leftOut'] {
  const counted = new Set(landed.asked.patches.filter(p => p.value !== undefined).map(p => p.code));
  const astray = new Set(strayedIn(plan, records).map(w => w.patch));
  const why = (code: string): string => {
    const [gone] = about(records, code, 'spoilt').slice(-1);
    if (gone?.slip) return 'left out: a slip';
    if (hasFailed(records, code)) return 'failed';
    if (gone) return 'left out: written off';
    if (astray.has(code)) return 'left out: not its wait';
    const read = readingOf(records, code);
    if (!read) return 'no reading';
    if (read.photo.stage !== 'dry') return 'only a wet photo';
    return read.photo.simulated ? 'left out: practice' : 'landed not given';
  };
  return plan.patches.filter(p => !counted.has(p.code)).map(p => ({ patch: p.code, why: why(p.code) }));
}

/** What was asked about pairs of factors. */
function jointIn(
  plan: TrialPlan,
  landed: Analysis,
  named: (f: number, level: number) => Words,
): Findings['pairs'] {
  return plan.design.interactions.flatMap(([f, g], k): Joint[] => {
    const sentence = pairSentence(landed, k, points, named);
    if (!sentence) return [];
    return [
      {
        factors: [f, g],
        names: [factorIn(plan, plan.factors[f].key), factorIn(plan, plan.factors[g].key)],
        sentence,
        cells: landed.means.flatMap(({ at, estimate, n }) => {
          const [a, b] = [at.get(f), at.get(g)];
          return at.size === 2 && a !== undefined && b !== undefined
            ? [
                {
                  levels: [a, b] as const,
                  names: [named(f, a), named(g, b)] as const,
                  ...{ mean: estimate.value, lo: estimate.lo, hi: estimate.hi, n },
                },
              ]
            : [];
        }),
      },
    ];
  });
}

/** Curves of what was varied in numbers; of a wait by what was really waited. */
function dosesOf(plan: TrialPlan, records: readonly TrialRecord[], landed: Analysis): Findings['doses'] {
  const waits = new Map(waitsOf(plan, records).map(w => [w.patch, w.waitedMin / 60]));
  const really = (code: string, f: number) =>
    plan.factors[f].key === 'dryHours' ? waits.get(code) : undefined;
  return dosesIn(plan, landed, really).map(dose => {
    const { key } = plan.factors[dose.factor];
    const name = factorIn(plan, key);
    const said = (x: number) => levelName(namesOf(plan), key, round(x));
    return { ...dose, name, sentence: doseSentence(name, dose, said) };
  });
}

/** As many figures as are meant. */
const round = (x: number): number => Number(x.toPrecision(2));

/**
 * How much patches made alike differ in this trial, in points landed: the residual of its fit; nothing while it has none.
 *
 * @example scatterOf(plan, records); // => undefined
 */
export function scatterOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
): { readonly residualSd: number; readonly degreesOfFreedom: number } | undefined {
  const patchOf = new Map(plan.patches.map(p => [p.code, p]));
  const shared = sharedIn(plan);
  const cases = observations(plan, records, 'landed')
    .filter(o => !hasFailed(records, o.code))
    .map(o => ({ ...o, shares: shared.of(patchOf.get(o.code)!) }));
  const model = {
    control: cases.some(c => !c.levels.length),
    counts: plan.factors.map(f => f.levels.length),
    pairs: plan.design.interactions,
    nest: nestOf(plan.factors, methodsOf(plan)),
  };
  const fit = fitCases(model, cases);
  if (!fit) return undefined;
  const spent = fit.coded.parts.q.length + fit.mixed.shifts.reduce((sum, s) => sum + s.length - 1, 0);
  return {
    residualSd: Math.sqrt(fit.residualVariance),
    degreesOfFreedom: Math.max(1, cases.length - spent),
  };
}

/**
 * Whether it lasts: what every factor does to the loss in each wear test, with the same care as findings. Empty until
 * enough patches are photographed before and after.
 *
 * @example lastingOf(plan, records); // => []
 */
export function lastingOf(plan: TrialPlan, records: readonly TrialRecord[]): Lasting[] {
  const named = levelsAsDone(plan, records);
  const losses = lossesOf(plan, records);
  return plan.wear.flatMap(test => {
    const own = new Map(losses.filter(l => l.test === test).map(l => [l.patch, l.lost]));
    const analysis = analysed(plan, records, { by: AS_LOSS, bounds: [0, 100], value: code => own.get(code) });
    if (!analysis.fit) return [];
    return plan.factors.map((_, f) => ({ test, ...effectOf(plan, f, AS_LOSS, analysis, named) }));
  });
}

function effectOf(
  plan: TrialPlan,
  f: number,
  by: { readonly response: AsResponse; readonly isChance?: boolean },
  analysis: Analysis,
  named: (f: number, level: number) => Words,
): Omit<Effect, 'measure' | 'dots'> {
  const name = factorIn(plan, plan.factors[f].key);
  const chances = analysis.failing.flatMap(({ factor, level, chance, of }) =>
    factor === f && chance
      ? [
          {
            ...{ level, name: named(f, level), n: of },
            mean: 10 * (1 - chance.value),
            lo: 10 * (1 - chance.hi),
            hi: 10 * (1 - chance.lo),
          },
        ]
      : [],
  );
  const means = analysis.means.flatMap(({ at, estimate, n }) => {
    const level = at.size === 1 ? at.get(f) : undefined;
    return level === undefined
      ? []
      : [{ level, name: named(f, level), mean: estimate.value, lo: estimate.lo, hi: estimate.hi, n }];
  });
  const levels = by.isChance ? chances : means;
  if (sharedIn(plan).whole === f)
    return {
      ...{ factor: f, name, levels },
      sentence: say`Every ${within(name)} was made in one go, so it cannot be told from what happened to that go.`,
    };
  const choice = choicesOf(analysis).find(c => c.factor === f);
  return {
    ...{ factor: f, name, levels },
    ...(choice ? { best: choice.level, sure: choice.sure } : {}),
    sentence: by.isChance
      ? chanceSentence(analysis, f, by.response, named)
      : factorSentence(analysis, f, by.response.difference, by.response, named),
  };
}

/** What a combination is expected to measure, kept on its scale. */
const expected = (estimate: Estimated | undefined) =>
  estimate && { value: estimate.value, lo: estimate.lo, hi: estimate.hi };

/** Draws that are handed out whole, for trade-offs and for what would settle it. */
const WORLDS = 200;

/** By how much what counts as good is what the maker wants, by all measures together. */
function worthIn(plan: TrialPlan, records: readonly TrialRecord[], landed: Analysis): Analysis {
  const wanted = (wantedIn(records) as Wanted | undefined) ?? DESIRED[plan.intent];
  return analysed(plan, records, {
    by: { goal: 'more' },
    bounds: [0, 100],
    value: code => {
      const read = readingOf(records, code);
      return read?.photo.stage === 'dry' && observed(landed, code)
        ? worthOf(wanted, read.reading.reading)
        : undefined;
    },
    worlds: WORLDS,
  });
}

/** What is the best for what the maker wants, by all measures together. */
function leadingOf(
  plan: TrialPlan,
  worth: Analysis,
  { landed, veil }: { readonly landed: Analysis; readonly veil: Analysis },
  named: (f: number, level: number) => Words,
): Findings['leading'] {
  const { decision, options } = worth;
  if (!decision || !landed.fit) return undefined;
  const tried = options.map((levels, i) => ({ levels, ...decision.options[i] }));
  const [first] = tried.sort((a, b) => b.best - a.best || a.loss - b.loss);
  const { whole } = sharedIn(plan);
  const choices = choicesOf(worth).filter(c => c.factor !== whole);
  const range = expected(landed.combination?.(first.levels));
  const veiled = expected(veil.combination?.(first.levels));
  if (!range) return undefined;
  const name = combined(first.levels, named);
  return {
    levels: first.levels,
    name,
    landed: range,
    ...(veiled ? { veil: veiled } : {}),
    patches: plan.patches.filter(p => p.levels.join() === first.levels.join()).map(p => p.code),
    sure: first.best,
    certain: choices.length > 0 && choices.every(c => c.sure >= SETTLED),
    sentence: headline(worth, v => say`${Math.max(1, Math.round(v))} of 100 points`, named),
  };
}

const onlyFailed = ({ asked }: Analysis, levels: readonly number[]): boolean => {
  const own = asked.patches.filter(p => p.levels.join() === levels.join());
  return own.some(p => p.failed) && own.every(p => p.failed || p.value === undefined);
};

/** A combination in words. */
const combined = (levels: readonly number[], named: (f: number, level: number) => Words): Words =>
  joined(levels.map((level, f) => named(f, level)).filter(Boolean), ', ');

const observed = ({ asked }: Analysis, code: string): boolean =>
  asked.patches.some(p => p.code === code && p.value !== undefined);
