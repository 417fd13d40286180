import { chanceFrom } from '../random/index.ts';
import type { Spans } from '../schedule/index.ts';
import type { Desk } from './desk.ts';
import type { Pace } from './pace.ts';
import { type Move, Play, STANDS_BY, type Takes } from './play.ts';
import { dueFirst, freshMove, guarded } from './rules.ts';

/** Courses of things that are played for every move, the same ones for all, so that moves differ by themselves alone. */
const COURSES = 16;
/** How far ahead is played: actions. */
const AHEAD = 48;
/** An hour more at the bench is worth so many lost windows; so is a day more until all is done. */
const HOUR = 0.006;
const DAY = 0.03;
/** A move has to be better by so much, in lost windows, to take the place of the one that was advised before. */
const STEADY = 0.04;
/** … and by so much to take the place of what the guarded rule says, whose order the maker knows. */
const RULE = 0.02;
/** What is put in where a window is kept at its edge: nought at the best moment, this much at the end of the window. */
const EDGE = 0.05;

/** A window that will probably be missed, and how likely. */
export interface Loss {
  readonly line: number;
  readonly chance: number;
}

/** What to begin next, or to wait for. */
export interface Advised {
  readonly move: Move;
  /** Windows of pieces that wait now which will probably be lost even so, the likeliest first. */
  readonly losses: readonly Loss[];
  /** Lost windows expected, of all that is played. */
  readonly expected: number;
}

/** Luck by course, looked up by line and link: every move meets the same. */
const WIDE = 509;
const LUCK = (() => {
  const chance = chanceFrom(20_261_126);
  const of = (one: () => number) => Float64Array.from({ length: COURSES * WIDE }, one);
  return {
    pace: of(() => chance.normal()),
    away: of(() => chance.next()),
    length: of(() => -Math.log(1 - chance.next())),
  };
})();

const takesIn =
  (course: number, pace: Pace): Takes =>
  (line, link, stated) => {
    const at = course * WIDE + ((line * 31 + link * 7) % WIDE);
    const away = LUCK.away[at] < pace.away ? pace.awayMs * LUCK.length[at] : 0;
    return stated * Math.exp(pace.mean + pace.sd * LUCK.pace[at]) + away;
  };

/** The share of a maker's own times that is reckoned with before something else is due: four in five are shorter. */
export const slackOf = (pace: Pace): number => Math.exp(pace.mean + 0.84 * pace.sd);

/** Moves worth looking at: what the two rules say, what can be done of what closes soonest, to wait for it, and new work. */
function movesOf(play: Play, slack: number, among?: ReadonlySet<number>): Move[] {
  const moves: Move[] = [];
  const add = (move: Move | undefined) => {
    if (move && among && !among.has(move.line)) return;
    if (move && !moves.some(m => m.line === move.line && m.start === move.start)) moves.push(move);
  };
  // Hands that press, iron or burnish stay with it; nothing else comes next.
  const { held } = play.desk;
  if (held !== undefined && (!among || among.has(held)))
    return [{ line: held, start: Math.max(play.now, play.aim[held]) }];
  add(guarded(play, slack));
  const due = dueFirst(play);
  if (due && play.isTimed(due.line)) add(due);
  const timed: number[] = [];
  const fresh = new Map<number, number[]>();
  for (let line = 0; line < play.at.length; line++) {
    if (!play.next(line) || !play.isFree(line) || (among && !among.has(line))) continue;
    if (play.isTimed(line)) timed.push(line);
    else {
      const { trial } = play.desk.lines[line];
      fresh.set(trial, [...(fresh.get(trial) ?? []), line]);
    }
  }
  timed.sort((a, b) => play.closes[a] - play.closes[b]);
  const open = timed.filter(line => play.opens[line] <= play.now);
  for (const line of open.slice(0, 3)) add({ line, start: play.now });
  const near = timed.filter(line => play.aim[line] > play.now);
  for (const line of near.slice(0, 2)) add({ line, start: play.aim[line] });
  // New work that would be due where nobody is waits for its hour.
  for (const lines of fresh.values()) add(freshMove(play, lines, slack));
  // Nobody stands by for longer while there is something to begin.
  const soon = moves.filter(m => m.start <= play.now + STANDS_BY);
  return soon.length ? soon : moves;
}

const hours = (ms: number) => ms / 3_600_000;

/** How far from its best moment a piece is begun, as a share of what the window leaves. */
function edge(play: Play, { line, start }: Move): number {
  if (!play.isTimed(line) || play.later[line]) return 0;
  const at = Math.max(play.now, start, play.opens[line]);
  const [opens, aim, closes] = [play.opens[line], play.aim[line], play.closes[line]];
  const off = at > aim ? (at - aim) / (closes - aim || 1) : (aim - at) / (aim - opens || 1);
  return Math.min(1, off) ** 2;
}

interface AdviseOptions {
  readonly before?: number | undefined;
  /** Lines that may come next; all without it. */
  readonly among?: ReadonlySet<number> | undefined;
  readonly courses?: readonly Takes[];
  /** What is begun already, whatever would be better: only what will be lost is asked. */
  readonly begun?: Move | undefined;
}

const usual = (pace: Pace) => Array.from({ length: COURSES }, (_, c) => takesIn(c, pace));

/**
 * What to begin next, or to wait for: every move worth looking at is played on with the guarded rule in the same
 * courses of luck, at this maker's own pace, and the one is taken that loses the fewest windows, with the least time at the
 * bench among equals (a rollout, Bertsekas & Tsitsiklis 1996: no worse on average than the rule it plays on with).
 * `before` is the line whose next action was advised last and is still to be done: it stays unless another is truly better. Nothing when all is done.
 */
export function advise(
  desk: Desk,
  there: Spans,
  pace: Pace,
  { before, among, courses = usual(pace), begun }: AdviseOptions = {},
): Advised | undefined {
  const start = Play.of(desk, there);
  const slack = slackOf(pace);
  const moves = begun ? [begun] : movesOf(start, slack, among);
  if (!moves.length) return undefined;
  // With nothing that waits there is nothing to weigh.
  const [rule] = moves;
  if (!desk.lines.some((_, i) => start.isTimed(i))) return { move: rule, losses: [], expected: 0 };
  const waits = new Set(desk.lines.flatMap((_, i) => (start.isTimed(i) ? [i] : [])));
  const tried: Tried[] = [];
  for (const move of moves) {
    const costs: number[] = [];
    let lost = 0;
    const losses = new Map<number, number>();
    for (const takes of courses) {
      const play = start.copy();
      let off = edge(play, move);
      play.make(move, takes);
      for (let n = 1; n < AHEAD; n++) {
        const then = guarded(play, slack);
        if (!then) break;
        off += edge(play, then);
        play.make(then, takes);
      }
      lost += play.lost.length;
      costs.push(
        play.lost.length + EDGE * off + HOUR * hours(play.spent) + (DAY / 24) * hours(play.now - desk.now),
      );
      for (const line of new Set(play.lost))
        if (waits.has(line)) losses.set(line, (losses.get(line) ?? 0) + 1);
    }
    tried.push({
      move,
      costs,
      expected: lost / courses.length,
      losses: [...losses]
        .map(([line, n]) => ({ line, chance: n / courses.length }))
        .filter(l => l.chance > 0.5)
        .sort((a, b) => b.chance - a.chance),
    });
  }
  return chosen(tried, before);
}

/** A move that was played, with what each course of things cost, in lost windows. */
interface Tried extends Advised {
  readonly costs: readonly number[];
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** The standard error of a mean of values. */
function errorOf(values: readonly number[]): number {
  const m = mean(values);
  const n = values.length;
  return n > 1 ? Math.sqrt(values.reduce((sum, v) => sum + (v - m) ** 2, 0) / (n - 1) / n) : 0;
}

/** So many standard errors is a move better where it takes the place of the one that stands. */
const SURE = 2;

/**
 * The move that costs least; the one that stands (what was advised before, else what the rule says, the first) stays
 * unless another is better by more than is worth a change, and by more than the luck of the courses can make of nothing:
 * they are the same ones for all moves, so that the differences are paired.
 */
function chosen(tried: readonly Tried[], before: number | undefined): Advised {
  const stands = tried.find(t => t.move.line === before) ?? tried[0];
  const margin = stands.move.line === before ? STEADY : RULE;
  let best = stands;
  let most = margin;
  for (const other of tried) {
    const gains = stands.costs.map((cost, c) => cost - other.costs[c]);
    const gain = mean(gains);
    if (gain <= Math.max(most, SURE * errorOf(gains)) + 1e-9) continue;
    best = other;
    most = gain;
  }
  return best;
}
