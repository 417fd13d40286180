import type { Spans } from '../schedule/index.ts';
import { isShortWait, type Link } from '../steps/index.ts';
import type { Desk, DeskLink } from './desk.ts';

/** Begin the next action of a line at a moment, ms. */
export interface Move {
  readonly line: number;
  readonly start: number;
}

/** How long an action takes, ms, by line, by its number in the line, and by what is stated. */
export type Takes = (line: number, link: number, stated: number) => number;
const AS_STATED: Takes = (_, __, stated) => stated;

/** A wait longer than this is not waited through at the bench, ms. */
export const STANDS_BY = 30 * 60_000;

/** The first moment from `at` (ms) on at which somebody is there; `at` itself where nobody ever is again. */
export function whenThere(there: Spans, at: number): number {
  for (const [from, to] of there) if (at < to) return Math.max(at, from);
  return at;
}

/**
 * The bench played on from now with one pair of hands: what is begun when, and which windows are lost. Changed in
 * place; {@link Play.copy} for another course of things.
 */
export class Play {
  /** Time spent at the bench, working or standing by, ms. */
  spent = 0;
  /** Lines whose window was missed, one entry for each window. */
  readonly lost: number[] = [];
  private constructor(
    readonly desk: Desk,
    readonly there: Spans,
    public now: number,
    readonly at: Int32Array,
    readonly opens: Float64Array,
    readonly aim: Float64Array,
    readonly closes: Float64Array,
    /** 1 where later in the window is as good. */
    readonly later: Uint8Array,
    private readonly lying: (string | undefined)[],
    private brush: string | undefined,
    private batches: readonly { readonly key: string; readonly until: number; readonly left: number }[],
  ) {}

  static of(desk: Desk, there: Spans): Play {
    const n = desk.lines.length;
    const of = (get: (due: NonNullable<Desk['due'][number]>) => number, none: number) =>
      Float64Array.from({ length: n }, (_, i) => {
        const due = desk.due[i];
        return due ? get(due) : none;
      });
    return new Play(
      desk,
      there,
      desk.now,
      new Int32Array(n),
      of(d => d.opens, Number.NEGATIVE_INFINITY),
      of(d => d.aim, Number.NEGATIVE_INFINITY),
      of(d => d.closes, Number.POSITIVE_INFINITY),
      Uint8Array.from({ length: n }, (_, i) => (desk.due[i]?.later ? 1 : 0)),
      [...desk.lying],
      desk.brush,
      desk.batches,
    );
  }

  copy(): Play {
    const play = new Play(
      this.desk,
      this.there,
      this.now,
      this.at.slice(),
      this.opens.slice(),
      this.aim.slice(),
      this.closes.slice(),
      this.later.slice(),
      [...this.lying],
      this.brush,
      this.batches,
    );
    play.spent = this.spent;
    play.lost.push(...this.lost);
    return play;
  }

  next(line: number): DeskLink | undefined {
    return this.desk.lines[line].links[this.at[line]];
  }

  /** Whether a line waits for something with a window. */
  isTimed = (line: number): boolean => this.opens[line] !== Number.NEGATIVE_INFINITY;

  /** Whether hands stay with a line's wait. */
  isShort = (line: number): boolean =>
    this.isTimed(line) && isShortWait((this.closes[line] - this.opens[line]) / 60_000);

  /** Whether a line's next action can be done as far as others go: its place has room, and its piece is ready as a whole. */
  isFree(line: number): boolean {
    const { place, whole, go, link } = this.next(line) ?? {};
    if (whole && go?.some(other => other !== line && this.isBehind(other, link!))) return false;
    const most = place === undefined ? undefined : this.desk.holds[place];
    if (most === undefined) return true;
    let count = 0;
    for (let i = 0; i < this.lying.length; i++) if (i !== line && this.lying[i] === place) count++;
    return count < most;
  }

  /** Whether a line still has an action to come, and something else before it. */
  private isBehind(line: number, { step, round }: Link): boolean {
    const { links } = this.desk.lines[line];
    return links.findIndex(l => l.link.step.id === step.id && l.link.round === round) > this.at[line];
  }

  /** Does what a move says, from its start or later where hands are not there or the piece is not to be touched yet. */
  make({ line, start }: Move, takes: Takes = AS_STATED): void {
    const link = this.next(line)!;
    const opens = this.isTimed(line) && this.now <= this.closes[line] ? this.opens[line] : this.now;
    const begin = whenThere(this.there, Math.max(this.now, start, opens));
    const go =
      link.go.length > 1
        ? link.go.filter(other => {
            const its = this.next(other)?.link;
            return its?.step.id === link.link.step.id && its.round === link.link.round;
          })
        : [line];
    if (this.isTimed(line) && !this.later[line] && begin > this.closes[line]) this.lost.push(line);
    let hands = 0;
    for (const other of go)
      hands += takes(other, this.at[other], this.desk.lines[other].links[this.at[other]].hands);
    const end = begin + this.tools(link, begin) + hands;
    this.spent += Math.min(STANDS_BY, begin - this.now) + end - begin;
    this.now = end;
    for (const other of go) this.advance(other, end);
  }

  /** Washing and mixing before an action, ms. */
  private tools(link: DeskLink, begin: number): number {
    let extra = 0;
    if (link.brush) {
      if (this.brush && this.brush !== link.brush) extra += this.desk.wash;
      this.brush = link.brush;
    }
    const { batch } = link;
    if (batch) {
      const open = this.batches.find(b => b.key === batch.key && b.left > 0 && b.until >= begin);
      if (!open) extra += batch.make;
      const left = (open?.left ?? batch.serves) - 1;
      const until = open?.until ?? begin + batch.make + batch.lasts;
      this.batches = [...this.batches.filter(b => b.key !== batch.key), { key: batch.key, until, left }];
    }
    return extra;
  }

  private advance(line: number, end: number): void {
    const done = this.next(line)!;
    this.at[line]++;
    this.lying[line] = done.place;
    const gap = this.next(line) ? done.gap : undefined;
    this.opens[line] = gap ? end + gap.min : Number.NEGATIVE_INFINITY;
    this.aim[line] = gap ? end + gap.aim : Number.NEGATIVE_INFINITY;
    this.closes[line] = gap ? end + gap.max : Number.POSITIVE_INFINITY;
    this.later[line] = gap?.later ? 1 : 0;
  }

  /** Hands that stay with a line from its next action on until it can be left alone, ms as stated. */
  run(line: number): number {
    return this.untilLeft(line).run;
  }

  /** What comes before a line can be left alone for a wait: hands (ms), that wait, and hands after it; nothing where none comes. */
  handsBeforeWait(line: number) {
    const { run, link } = this.untilLeft(line);
    const gap = link?.gap;
    if (!link || !gap) return undefined;
    const { links } = this.desk.lines[line];
    return { run, gap, needs: links[links.indexOf(link) + 1]?.hands ?? 0 };
  }

  private untilLeft(line: number): { run: number; link?: DeskLink } {
    const { links } = this.desk.lines[line];
    let run = 0;
    for (let k = this.at[line]; k < links.length; k++) {
      run += links[k].hands;
      const { gap } = links[k];
      if (!gap || !isShortWait((gap.max - gap.min) / 60_000)) return { run, link: links[k] };
      run += gap.aim;
    }
    return { run };
  }
}
