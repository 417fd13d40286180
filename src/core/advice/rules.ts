import { ALWAYS, type Spans } from '../schedule/index.ts';
import type { Move, Play } from './play.ts';

const soonest = (play: Play, lines: readonly number[]): number => {
  let best = lines[0];
  for (const line of lines) {
    const by = play.closes[line] - play.closes[best];
    if (by < 0 || (by === 0 && before(play, line, best))) best = line;
  }
  return best;
};

/** Whether one line comes before another in the planned order of work; trials in the order they stand. */
const before = (play: Play, a: number, b: number): boolean => {
  const [x, y] = [play.desk.lines[a], play.desk.lines[b]];
  return x.trial === y.trial ? x.order < y.order : x.trial < y.trial;
};

/** Lines with something to be done, by what they wait for. */
function sorted(play: Play) {
  const short: number[] = [];
  const ready: number[] = [];
  const fresh: number[] = [];
  const later: number[] = [];
  for (let line = 0; line < play.at.length; line++) {
    if (!play.next(line) || !play.isFree(line)) continue;
    if (!play.isTimed(line)) fresh.push(line);
    else if (play.isShort(line)) short.push(line);
    else if (play.now >= play.aim[line]) ready.push(line);
    else later.push(line);
  }
  return { short, ready, fresh, later };
}

/** Of what may begin at any time the first: marks before all, then by the planned order. */
function firstFresh(play: Play, fresh: readonly number[]): number {
  let best = fresh[0];
  for (const line of fresh) {
    const [a, b] = [play.next(line)!.marks, play.next(best)!.marks];
    if (a !== b ? a : before(play, line, best)) best = line;
  }
  return best;
}

/**
 * The plain rule: what is due first. A short wait is finished before anything else is begun, then what is ready, the
 * soonest to close first, then new work in the planned order, else the next wait. Nothing when all is done.
 */
export function dueFirst(play: Play): Move | undefined {
  const { short, ready, fresh, later } = sorted(play);
  if (short.length) {
    const line = soonest(play, short);
    return { line, start: Math.max(play.now, play.aim[line]) };
  }
  if (ready.length) return { line: soonest(play, ready), start: play.now };
  if (fresh.length) return { line: firstFresh(play, fresh), start: play.now };
  if (!later.length) return undefined;
  let line = later[0];
  for (const other of later) if (play.aim[other] < play.aim[line]) line = other;
  return { line, start: play.aim[line] };
}

/**
 * The soonest moment (ms) from `from` on to begin what has `run` ms of hands before a wait, so that somebody is there for
 * `needs` ms between the end of its shortest wait (`min`) and of its longest (`max`); `from` where there is none.
 *
 * @example soonestFor([[0, 10], [20, 30]], 5, { run: 1, min: 8, max: 9, needs: 1 }); // => 20
 */
export function soonestFor(
  there: Spans,
  from: number,
  { run, min, max, needs }: { run: number; min: number; max: number; needs: number },
): number {
  const meets = (at: number) =>
    there.some(([a, b]) => Math.min(b, at + run + max) - Math.max(a, at + run + min) >= needs);
  const isThere = (at: number) => there.some(([a, b]) => at >= a && at < b);
  if (meets(from)) return from;
  // It begins to meet them either as a span begins, or as the end of its window comes to a later one.
  let best = Number.POSITIVE_INFINITY;
  for (const [a] of there)
    for (const at of [a, Math.ceil(a + needs - run - max)])
      if (at > from && at < best && isThere(at) && meets(at)) best = at;
  return Number.isFinite(best) ? best : from;
}

/** When new work on a line is best begun, ms: at once, or where its next window would fall to where nobody is, later. */
function begins(play: Play, line: number, slack: number): number {
  if (play.there === ALWAYS) return play.now;
  const hands = play.handsBeforeWait(line);
  if (!hands) return play.now;
  const { run, gap, needs } = hands;
  return soonestFor(play.there, play.now, {
    ...{ run: run * slack, min: gap.min, max: gap.max },
    needs: Math.min(needs * slack, gap.max - gap.min),
  });
}

/** The new work among lines that fits in soonest, and when: the first in order of those that do. */
export function freshMove(play: Play, lines: readonly number[], slack: number): Move {
  // Pieces that go through the same are asked about once.
  const known = new Map<string, number>();
  const starts = lines.map(line => {
    const key = JSON.stringify(play.handsBeforeWait(line) ?? null);
    const start = known.get(key) ?? begins(play, line, slack);
    known.set(key, start);
    return start;
  });
  const start = Math.min(...starts);
  return {
    line: firstFresh(
      play,
      lines.filter((_, i) => starts[i] === start),
    ),
    start,
  };
}

/** What {@link dueFirst} says, but that nothing new is begun whose next window would fall to where nobody is. */
function inHours(play: Play, slack: number): Move | undefined {
  const plain = dueFirst(play);
  if (!plain || play.there === ALWAYS || play.isTimed(plain.line)) return plain;
  if (begins(play, plain.line, slack) <= play.now) return plain;
  const { fresh, later } = sorted(play);
  let first = freshMove(play, fresh, slack);
  if (first.start <= play.now) return first;
  for (const line of later) if (play.aim[line] < first.start) first = { line, start: play.aim[line] };
  return first;
}

/**
 * The plain rule that keeps windows free: nothing is begun whose run of hands, `slack` times as long as stated, could
 * go past the end of a window that can still be kept; then that window's piece comes first, or is waited for.
 */
export function guarded(play: Play, slack: number): Move | undefined {
  const plain = inHours(play, slack);
  if (!plain) return undefined;
  const { line, start } = plain;
  const end = start + slack * play.run(line);
  const closes = play.closes[line];
  let first: number | undefined;
  for (let other = 0; other < play.at.length; other++) {
    if (other === line || !play.next(other) || !play.isTimed(other)) continue;
    const last = play.closes[other];
    // What closes sooner is in danger; what is lost already, or closes after this one does, is not.
    if (last < play.now || last >= end || last > closes) continue;
    if (first === undefined || last < play.closes[first]) first = other;
  }
  if (first === undefined) return plain;
  const best = play.later[first] ? play.opens[first] : play.aim[first];
  return { line: first, start: Math.max(play.now, best) };
}
