import { chanceOf, type Later } from '../models/index.ts';
import { agree, give, joined, listed, many, named, say, sure, type Words, within } from '../say/index.ts';
import type { Analysis, NotTold } from './analyse.ts';

/** How sure a choice of a level is. */
export interface Choice {
  readonly factor: number;
  /** The level that is most likely the best. */
  readonly level: number;
  readonly sure: number;
  readonly loss: number;
  /** The evidence for a difference is strong, however often one looked. */
  readonly firm: boolean;
  /** Levels that may as well be the best, the likeliest first, this one among them. */
  readonly open: readonly number[];
}

/** What choices are made by: a decision, or what it would be with some patches more. */
type Judged = Pick<Later, 'levels' | 'matters' | 'draws'>;

/** From here on a choice is called settled. */
export const SETTLED = 0.8;
/** A level that is the best with at least this chance is still open. */
const STILL_OPEN = 0.1;
/** A firm winner is the best with this chance … */
const FIRM = 0.95;
/** … and the patches are so many times likelier if the factor matters than if it does not: looking often cannot cheat past it. */
const FIRM_ODDS = 30;
/** Prior odds that a factor matters, as the decision is drawn. */
const PRIOR_ODDS = 9;

/**
 * The choice of a level of each factor that the patches tell, by the decision of an analysis.
 */
export function choicesOf({
  decision,
  told,
}: {
  readonly decision?: Judged | undefined;
  readonly told: readonly number[];
}): Choice[] {
  if (!decision) return [];
  return told.map(factor => {
    const levels = decision.levels[factor];
    const order = levels.map((_, l) => l).filter(l => Number.isFinite(levels[l].best));
    order.sort((a, b) => levels[b].best - levels[a].best || levels[a].loss - levels[b].loss);
    const [level] = order;
    const matters = Math.min(decision.matters[factor], 1 - 1 / (2 * decision.draws));
    const odds = matters / (1 - matters) / PRIOR_ODDS;
    return {
      ...{ factor, level },
      sure: levels[level].best,
      loss: levels[level].loss,
      firm: levels[level].best >= FIRM && odds >= FIRM_ODDS,
      open: order.filter(l => l === level || levels[l].best >= STILL_OPEN),
    };
  });
}

/** Rounded so that it does not say more than the draws do: never quite sure. */
export const surePercent = (chance: number): number => Math.min(99, Math.max(1, Math.round(100 * chance)));

const either = (names: readonly Words[]): Words => listed(names, 'or');
const both = (names: readonly Words[]): Words => listed(names, 'and');

/**
 * The decision in a line or two: what to take and how sure that is, and what is not settled.
 *
 * @param difference a difference of the response in words. @param name a level in words.
 */
export function headline(
  analysis: Analysis,
  difference: (value: number) => Words,
  name: (factor: number, level: number) => Words = nameIn(analysis),
): Words {
  const rests = restsOn(analysis);
  const choices = choicesOf(analysis);
  const settled = choices.filter(c => c.sure >= SETTLED);
  const open = choices.filter(c => c.sure < SETTLED);
  const parts: Words[] = [];
  if (settled.length) {
    const least = Math.min(...settled.map(c => c.sure));
    const loss = settled.reduce((sum, c) => sum + c.loss / Math.max(0.01, 1 - c.sure), 0) / settled.length;
    const take = say`Take ${both(settled.map(c => name(c.factor, c.level)))}: ${settled.length > 1 ? 'each at least ' : ''}${sure(least, { rests })} sure.`;
    // What is lost in the one draw in a hundred is nothing to go by.
    parts.push(
      surePercent(least) < 99 ? say`${take} If that is wrong you lose about ${difference(loss)}.` : take,
    );
  }
  for (const c of open) {
    const names = either(c.open.map(l => name(c.factor, l)));
    parts.push(
      isEither(analysis, c)
        ? say`${names}: either will do, as far as it is known.`
        : say`Not settled: ${names}.`,
    );
  }
  return joined(parts, ' ');
}

/** How many patches a statement rests on. */
const restsOn = ({ asked }: Pick<Analysis, 'asked'>): Words => {
  const told = asked.patches.filter(p => p.failed || p.value !== undefined).length;
  return say`It rests on ${many(told, 'patch')} of this trial.`;
};

/** What is lost by the wrong choice is nothing where it is less than this share of the scale. */
const NOTHING_LOST = 0.01;

/**
 * Whether it does not matter which of the open levels is taken: next to nothing is to be lost by it.
 */
export const isEither = (
  { asked, decision }: Pick<Analysis, 'asked'> & { readonly decision?: Judged | undefined },
  choice: Choice,
): boolean =>
  asked.bounds !== undefined &&
  decision !== undefined &&
  choice.sure < SETTLED &&
  choice.open.every(
    level =>
      decision.levels[choice.factor][level].loss < NOTHING_LOST * (asked.bounds![1] - asked.bounds![0]),
  );

const nameIn =
  ({ asked }: Analysis) =>
  (factor: number, level: number): Words =>
    asked.factors[factor].levels[level];

/**
 * What the patches say of one factor, no more than they carry.
 */
export function factorSentence(
  analysis: Analysis,
  factor: number,
  difference: (value: number) => Words,
  words: { readonly more: string; readonly noun: string } = { more: 'is better', noun: 'this' },
  name: (factor: number, level: number) => Words = nameIn(analysis),
): Words {
  const blind = analysis.notTold.filter(n => n.factor === factor);
  const choice = choicesOf(analysis).find(c => c.factor === factor);
  if (!choice || !analysis.decision) return notToldSentence(analysis, blind, name);
  const levels = analysis.decision.levels[factor];
  const second = levels
    .map((_, l) => l)
    .filter(l => l !== choice.level && Number.isFinite(levels[l].value))
    .sort((a, b) => levels[a].loss - levels[b].loss)[0];
  const best = name(factor, choice.level);
  if (second === undefined) return say`Only ${best} was tried.`;
  const found = analysis.differences.find(
    d =>
      d.factor === factor &&
      ((d.a === choice.level && d.b === second) || (d.b === choice.level && d.a === second)),
  );
  const gone = analysis.failing.filter(x => x.factor === factor && x.of > 0 && x.failed === x.of);
  const lead = Math.abs(levels[choice.level].value - levels[second].value);
  if (gone.length === levels.length - 1)
    return say`${best} is the only one that worked: ${joined(
      gone.map(x => say`${name(factor, x.level)} failed ${x.failed} times in ${x.of}`),
      ', ',
    )}.`;
  const rests = restsOn(analysis);
  const within90 = found
    ? say` (${analysis.failures ? 'of those that worked' : 'measured'}: ${difference(Math.abs(found.value))}, give or take ${give(difference((found.hi - found.lo) / 2), rests)})`
    : '';
  const others = levels.length === 2 ? name(factor, second) : 'every other';
  if (choice.firm) return say`${best} ${words.more} than ${others}, by about ${difference(lead)}${within90}.`;
  if (choice.sure >= SETTLED)
    return say`${best} most likely ${words.more} than ${others}: ${sure(choice.sure, { rests })} sure, by about ${difference(lead)}${within90}.`;
  return say`${either(choice.open.map(l => name(factor, l)))}: not settled; the likeliest is ${best}, ${sure(choice.sure, { rests })} sure${within90}.`;
}

function notToldSentence(
  { asked }: Analysis,
  blind: readonly NotTold[],
  name: (factor: number, level: number) => Words,
): Words {
  const [first] = blind;
  if (!first) return '';
  const own = asked.factors[first.factor].name;
  const levels = both(first.levels.map(l => name(first.factor, l)));
  if (first.shared !== undefined)
    return say`${own}: each had a ${first.shared} of its own, so what ${levels} did cannot be told from what the ${first.shared}s did.`;
  if (!first.from.length) return say`${own}: no patch tells ${levels} apart; one of them was never measured.`;
  const gone = asked.patches.filter(p => p.value === undefined).map(p => p.code);
  const others = both(first.from.map(f => within(asked.factors[f].name)));
  const missing = gone.length
    ? say`: ${joined(
        gone.slice(0, 6).map(code => named(code, 'patch')),
        ', ',
      )}${gone.length > 6 ? ` and ${gone.length - 6} more` : ''} ${agree(gone.length, 'is', 'are')} missing`
    : '';
  return say`${own} and ${others} cannot be told apart${missing}.`;
}

/**
 * How much failed, in words; nothing where nothing did.
 */
export function failureSentence(
  { asked, failing, failures }: Analysis,
  name: (factor: number, level: number) => Words,
): Words {
  if (!failures) return '';
  const told = asked.factors.flatMap((_, f) => {
    const own = failing.filter(x => x.factor === f && x.of > 0);
    const shares = own.map(x => x.failed / x.of);
    // Only what may differ is said level by level.
    return Math.max(...shares) - Math.min(...shares) >= 0.25
      ? [
          joined(
            own.map(x => say`${name(f, x.level)} ${x.failed} of ${x.of}`),
            ', ',
          ),
        ]
      : [];
  });
  const all = failing.filter(x => x.factor === 0).reduce((sum, x) => sum + x.of, 0);
  return say`${failures} of ${all} failed${told.length ? [': ', joined(told, '; ')] : ''}.`;
}

/**
 * What the patches say of one factor about something that is yes or no: how often at each level, and whether a choice is
 * settled.
 */
export function chanceSentence(
  analysis: Analysis,
  factor: number,
  words: { readonly more: string },
  name: (factor: number, level: number) => Words,
): Words {
  const counted = joined(
    analysis.failing
      .filter(x => x.factor === factor && x.of > 0)
      .map(x => say`${name(factor, x.level)} ${x.of - x.failed} of ${x.of}`),
    ', ',
  );
  const choice = choicesOf(analysis).find(c => c.factor === factor);
  if (!choice) return say`${counted}.`;
  const best = name(factor, choice.level);
  if (choice.sure >= SETTLED)
    return say`${counted}. ${best} most likely ${words.more}: ${sure(choice.sure)} sure.`;
  return say`${counted}. Not settled: ${either(choice.open.map(l => name(factor, l)))}.`;
}

/** So many times likelier with a joint effect than without, or the other way round, and it is said. */
const JOINT_ODDS = 3;
/** … or where so large a difference of differences comes by chance less often, over all that were looked at (Bonferroni). */
const JOINT_CHANCE = 0.05;

/**
 * Whether two factors have an effect together, in a sentence, with the largest difference it makes; nothing where the
 * patches do not tell it.
 *
 * @param pair its place among the pairs that were asked about.
 */
export function pairSentence(
  analysis: Analysis,
  pair: number,
  difference: (value: number) => Words,
  name: (factor: number, level: number) => Words = nameIn(analysis),
): Words | undefined {
  const { decision, asked, means, fit } = analysis;
  const [f, g] = asked.pairs[pair];
  const cells = means.filter(m => m.at.size === 2 && m.at.has(f) && m.at.has(g));
  if (!decision || !fit || cells.length < 4) return undefined;
  const matters = Math.min(decision.together[pair], 1 - 1 / (2 * decision.draws));
  const odds = matters / (1 - matters) / PRIOR_ODDS;
  const [one, other] = [asked.factors[f].name, asked.factors[g].name];
  const value = (a: number, b: number) =>
    cells.find(c => c.at.get(f) === a && c.at.get(g) === b)?.estimate.value;
  let best: { size: number; words: Words; chance: number } = { size: 0, words: '', chance: 1 };
  let tried = 0;
  const levels = (k: number) => asked.factors[k].levels.map((_, l) => l);
  for (const a of levels(f))
    for (const b of levels(f).slice(a + 1))
      for (const x of levels(g))
        for (const y of levels(g).slice(x + 1)) {
          const four = [value(a, x), value(b, x), value(a, y), value(b, y)];
          if (four.some(v => v === undefined)) continue;
          const [ax, bx, ay, by] = four as number[];
          const size = Math.abs(ax - bx - (ay - by));
          tried++;
          if (size <= best.size) continue;
          const own = cells.filter(c => [a, b].includes(c.at.get(f)!) && [x, y].includes(c.at.get(g)!));
          const se = Math.sqrt(own.reduce((sum, c) => sum + fit.residualVariance / Math.max(1, c.n), 0));
          const says = (d: number) =>
            say`${difference(Math.abs(d))} ${d >= 0 ? 'more' : 'less'} than ${name(f, b)}`;
          best = {
            size,
            chance: chanceOf(size, se, Math.max(1, fit.cases.length - fit.coded.parts.q.length)),
            words: say`${name(f, a)} has ${says(ax - bx)} at ${name(g, x)}, and ${says(ay - by)} at ${name(g, y)}`,
          };
        }
  // In points it may be plain what on the scale that things add up on is none: both are looked at.
  if (odds >= JOINT_ODDS || best.chance * tried < JOINT_CHANCE)
    return say`${one} works differently with another ${within(other)}: ${best.words}.`;
  return odds <= 1 / JOINT_ODDS
    ? `${one} and ${within(other)}: no sign that one works differently with the other.`
    : `${one} and ${within(other)}: whether one works differently with the other is not settled.`;
}
