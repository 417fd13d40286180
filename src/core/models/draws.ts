import type { Chance } from '../random/index.ts';
import type { LinkFunction } from './link.ts';

/** One draw of the posterior: what the truth may be. */
export interface World {
  /** What each option is worth in it, failures counted. */
  readonly worth: readonly number[];
  /** One more patch of an option as it may come out on one more board, strip or load: nothing where it fails. */
  play(option: number, shifts: readonly number[], chance: Chance): number | undefined;
  /** What one more board, strip or load may shift, for each term that patches share. */
  shifts(chance: Chance): number[];
}

/** One patch more of an option, as it came out; nothing where it failed. */
export interface More {
  readonly option: number;
  readonly value: number | undefined;
}

/** How a level stands once some more is known: the chance to be in the best option, and what is lost by it. */
export interface Standing {
  readonly best: number;
  readonly loss: number;
}

/** What a decision would be with some patches more. */
export interface Later {
  readonly levels: readonly (readonly Standing[])[];
  readonly matters: readonly number[];
  /** What each option is then expected to be worth. */
  readonly values: readonly number[];
  readonly draws: number;
}

/** What a draw says of each option, of the scatter, and of what is shared. */
export interface Draw {
  readonly worth: Float64Array;
  /** On the scale it is drawn on, failures not counted. */
  readonly good: Float64Array;
  readonly failed: readonly number[] | undefined;
  readonly sd: number;
  readonly shared: readonly number[];
  /** Which factors make a difference in it. */
  readonly matters: readonly boolean[];
}

/** What of a draw comes into a decision: the shares of the best of each level, and what is lost by it. */
interface Told {
  readonly best: readonly (readonly Float64Array[])[];
  readonly loss: readonly (readonly Float64Array[])[];
  readonly values: readonly Float64Array[];
  readonly matters: readonly Float64Array[];
  /** What each option is worth where it works, on the scale it is drawn on; and the logs of its chances to fail and not to. */
  readonly good: readonly Float64Array[];
  readonly fails: readonly Float64Array[];
  readonly works: readonly Float64Array[];
  readonly alone: Float64Array;
  readonly shared: Float64Array;
}

/** Draws of a posterior that are kept, so that it can be asked what more patches would do to it. */
export class Draws {
  private readonly kept: Draw[] = [];
  private table: Told | undefined;

  /** @param rows the options of each level of each factor. */
  constructor(
    private readonly link: LinkFunction,
    private readonly rows: readonly (readonly (readonly number[])[])[],
    private readonly better: 'high' | 'low',
  ) {}

  add(draw: Draw): void {
    this.kept.push(draw);
    this.table = undefined;
  }

  /** As many of them as are asked for, spread over all. */
  worlds(count: number): World[] {
    const each = Math.max(1, Math.floor(this.kept.length / Math.max(1, count)));
    return this.kept
      .filter((_, d) => d % each === 0)
      .slice(0, count)
      .map(d => this.worldOf(d));
  }

  private worldOf({ worth, good, failed, sd, shared }: Draw): World {
    return {
      worth: [...worth],
      play: (option, shifts, chance) => {
        const fails = chance.next() < (failed?.[option] ?? 0);
        const value = this.link.from(good[option] + shifts.reduce((a, b) => a + b, 0) + sd * chance.normal());
        return fails ? undefined : value;
      },
      shifts: chance => shared.map(s => s * chance.normal()),
    };
  }

  /**
   * The decision with some patches more, all on one board, strip or load more: each draw is weighed by how likely they are
   * in it, the shift of what they share averaged out (importance sampling: Rubin 1988, SIR).
   */
  after(more: readonly More[]): Later {
    this.table ??= this.told();
    const weights = this.weightsOf(more, this.table);
    const { best, loss, values, matters } = this.table;
    const mean = (of: Float64Array) => {
      let sum = 0;
      for (let d = 0; d < weights.length; d++) sum += weights[d] * of[d];
      return sum;
    };
    return {
      levels: best.map((own, f) => own.map((b, l) => ({ best: mean(b), loss: mean(loss[f][l]) }))),
      matters: matters.map(mean),
      values: values.map(mean),
      draws: this.kept.length,
    };
  }

  private told(): Told {
    const { kept, rows } = this;
    const sign = this.better === 'high' ? 1 : -1;
    const column = () => new Float64Array(kept.length);
    const best = rows.map(own => own.map(column));
    const loss = rows.map(own => own.map(column));
    kept.forEach(({ worth }, d) => {
      rows.forEach((own, f) => {
        const tops = own.map(options =>
          options.length ? Math.max(...options.map(i => sign * worth[i])) : Number.NaN,
        );
        const most = Math.max(...tops.filter(Number.isFinite));
        const near = 1e-9 * Math.max(1, Math.abs(most));
        const winners = tops.filter(t => most - t <= near).length;
        tops.forEach((top, l) => {
          best[f][l][d] = most - top <= near ? 1 / winners : 0;
          loss[f][l][d] = most - top;
        });
      });
    });
    const byOption = (of: (d: Draw, option: number) => number) =>
      Array.from(kept[0].worth, (_, i) => Float64Array.from(kept, d => of(d, i)));
    const log = (chance: number) => Math.log(Math.max(1e-300, chance));
    return {
      ...{ best, loss },
      values: byOption((d, i) => d.worth[i]),
      matters: rows.map((_, f) => Float64Array.from(kept, d => Number(d.matters[f]))),
      good: byOption((d, i) => d.good[i]),
      fails: byOption((d, i) => log(d.failed?.[i] ?? 0)),
      works: byOption((d, i) => log(1 - (d.failed?.[i] ?? 0))),
      alone: Float64Array.from(kept, d => Math.max(1e-300, d.sd * d.sd)),
      shared: Float64Array.from(kept, d => d.shared.reduce((s, v) => s + v * v, 0)),
    };
  }

  /** How likely some patches are in each draw, adding up to one. */
  private weightsOf(more: readonly More[], { good, fails, works, alone, shared }: Told): Float64Array {
    const count = this.kept.length;
    const logs = new Float64Array(count);
    const off = new Float64Array(count);
    const squares = new Float64Array(count);
    let n = 0;
    for (const option of new Set(more.map(m => m.option))) {
      const here = more.filter(m => m.option === option);
      const at = here.flatMap(m => (m.value === undefined ? [] : [this.link.to(m.value)]));
      const sum = at.reduce((a, b) => a + b, 0);
      const own = at.reduce((a, b) => a + b * b, 0);
      const failed = here.length - at.length;
      const [good1, fails1, works1] = [good[option], fails[option], works[option]];
      for (let d = 0; d < count; d++) {
        const g = good1[d];
        logs[d] += failed * fails1[d] + at.length * works1[d];
        off[d] += sum - at.length * g;
        squares[d] += own - 2 * g * sum + at.length * g * g;
      }
      n += at.length;
    }
    if (n)
      for (let d = 0; d < count; d++) {
        const together = alone[d] + n * shared[d];
        logs[d] -=
          ((squares[d] - (shared[d] / together) * off[d] * off[d]) / alone[d] +
            (n - 1) * Math.log(alone[d]) +
            Math.log(together)) /
          2;
      }
    let top = Number.NEGATIVE_INFINITY;
    for (let d = 0; d < count; d++) if (logs[d] > top) top = logs[d];
    let all = 0;
    for (let d = 0; d < count; d++) {
      logs[d] = Math.exp(logs[d] - top);
      all += logs[d];
    }
    for (let d = 0; d < count; d++) logs[d] /= all;
    return logs;
  }
}
