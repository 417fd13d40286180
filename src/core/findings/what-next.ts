import type { Decision, Later, World } from '../models/index.ts';
import type { Progress } from '../outcome/index.ts';
import { chanceFrom } from '../random/index.ts';
import { say, type Words } from '../say/index.ts';
import type { Analysis } from './analyse.ts';
import { type Choice, choicesOf, isEither, SETTLED } from './words.ts';

/** A few patches more, and what they would most likely do for the decision. */
export interface WhatNext {
  /** Combinations to be made again, as often as they stand here. */
  readonly combinations: readonly (readonly number[])[];
  /** How likely all that is open is settled with them. */
  readonly settles: number;
  /** How much better the choice is expected to be with them than without, in the units of the response. */
  readonly gain: number;
}

const WORLDS = 60;
/** No more than so many patches are proposed. */
const MOST = 16;
/** Of this many options at most. */
const MOST_OPTIONS = 4;

/** An option that is less likely than this to be the best is out of the race. */
const IN_THE_RACE = 0.02;
/** So many failed, and none did not: a level is known to fail. */
const KNOWN_TO_FAIL = 3;

const failsAlways = ({ failing }: Analysis, factor: number, level: number): boolean =>
  failing.some(x => x.factor === factor && x.level === level && x.of >= KNOWN_TO_FAIL && x.failed === x.of);

/** Sets of options that speak of what is open: the likeliest with each other level of each open choice. */
function setsFor(analysis: Analysis, open: readonly Choice[], decision: Decision): number[][] {
  const { options } = analysis;
  // Nobody is sent to what is known to fail, nor to what is out of the race.
  const order = options
    .map((_, i) => i)
    .filter(
      i => decision.options[i].best >= IN_THE_RACE && !options[i].some((l, f) => failsAlways(analysis, f, l)),
    )
    .sort((a, b) => decision.options[b].best - decision.options[a].best);
  const [lead] = order;
  const beside = open.flatMap(c =>
    c.open.flatMap(level => {
      const own = order.filter(i => options[i][c.factor] === level);
      // As like the likeliest as can be, so that nothing else differs.
      const like = (i: number) => options[i].filter((l, f) => l === options[lead][f]).length;
      const [near] = [...own].sort((a, b) => like(b) - like(a) || order.indexOf(a) - order.indexOf(b));
      return near === undefined ? [] : [near];
    }),
  );
  const sets = [
    [...new Set([lead, ...beside])].slice(0, MOST_OPTIONS),
    order.slice(0, 2),
    order.slice(0, MOST_OPTIONS),
    ...(order.length <= 8 ? [order] : []),
  ].filter(set => set.length > 1);
  return [...new Map(sets.map(set => [[...set].sort().join(), set])).values()];
}

/**
 * Which few patches would settle what is not settled: for each of some likely sets, made once to four times, trials are
 * played from draws of the posterior on one board more, and the posterior is weighed by how they come out (preposterior
 * analysis: Raiffa & Schlaifer 1961). Of those that most likely settle it the smallest; where none does, the
 * one with the most gain a patch. Nothing where all is settled, or nothing is worth it.
 *
 * @param tell hears how far it is, and may stop it.
 */
export function whatNext(analysis: Analysis, tell: Progress = () => {}): WhatNext | undefined {
  const { decision, asked, told } = analysis;
  if (!decision?.after) return undefined;
  const choices = choicesOf(analysis);
  const isOpen = (c: Choice) => c.sure < SETTLED && !isEither(analysis, c);
  if (!choices.some(isOpen)) return undefined;
  const sets = setsFor(analysis, choices.filter(isOpen), decision);
  const tries = sets
    .flatMap(set => [1, 2, 3, 4].map(times => Array.from({ length: times }, () => set).flat()))
    .filter(list => list.length >= 2 && list.length <= MOST)
    .sort((a, b) => a.length - b.length);
  const each = Math.max(1, Math.floor(decision.worlds.length / WORLDS));
  const worlds = decision.worlds.filter((_, i) => i % each === 0).slice(0, WORLDS);
  const sign = asked.better === 'high' ? 1 : -1;
  const now = bestOf(decision.after([]), sign);
  let done = 0;
  let best: (WhatNext & { readonly perPatch: number }) | undefined;
  for (const list of tries) {
    let [settled, gain] = [0, 0];
    worlds.forEach((world, w) => {
      const then = decision.after!(playedIn(world, list, w));
      tell(++done / (tries.length * worlds.length), 'Looking for what would settle it');
      const later = choicesOf({ decision: then, told });
      if (later.every(c => c.sure >= SETTLED || isEither({ asked, decision: then }, c))) settled++;
      gain += sign * (world.worth[bestOf(then, sign)] - world.worth[now]);
    });
    const found = {
      combinations: list.map(i => analysis.options[i]),
      settles: settled / worlds.length,
      gain: gain / worlds.length,
    };
    if (found.settles >= LIKELY) return found;
    const perPatch = (found.settles + found.gain / 100) / list.length;
    if (!best || perPatch > best.perPatch) best = { ...found, perPatch };
  }
  if (!best || best.settles < WORTH_IT) return undefined;
  const { perPatch: _, ...found } = best;
  return found;
}

/** “Most likely”. */
const LIKELY = 0.6;
/** With less than this nobody is sent to work. */
const WORTH_IT = 0.15;

const bestOf = ({ values }: Later, sign: number): number =>
  values.reduce((best, v, i) => (sign * v > sign * values[best] ? i : best), 0);

/** Some patches more of options, as one draw of the truth has them come out. */
function playedIn(world: World, list: readonly number[], seed: number) {
  // The same luck for every list, so that lists are compared and not their luck.
  const chance = chanceFrom(7919 * (seed + 1));
  const shifts = world.shifts(chance);
  return list.map(option => ({ option, value: world.play(option, shifts, chance) }));
}

const WORDS = [
  '',
  'One',
  'Two',
  'Three',
  'Four',
  'Five',
  'Six',
  'Seven',
  'Eight',
  'Nine',
  'Ten',
  'Eleven',
  'Twelve',
];

/**
 * What next, in a sentence.
 *
 * @example nextSentence({ combinations: [[0], [1]], settles: 0.7, gain: 1 }); // => 'Two more patches would most likely settle it.'
 */
export function nextSentence({ combinations, settles }: WhatNext): Words {
  const count = combinations.length;
  const number = WORDS[count] ?? `${count}`;
  const often =
    settles >= LIKELY
      ? 'would most likely settle it'
      : say`settle it in about ${Math.round(10 * settles)} of 10 cases`;
  return say`${number} more patches ${often}.`;
}
