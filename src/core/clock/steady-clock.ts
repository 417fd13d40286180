/** Where a clock gets its time from. */
export interface TimeSources {
  /** The computer's clock, ms since the epoch; it may be set back or forward. */
  wall(): number;
  /** Ms since some start; never set, but it may stand still while the computer sleeps. */
  ticks(): number;
}

/** A jump of the computer's clock smaller than this is nothing. */
const JITTER_MS = 2000;

/**
 * A clock that never goes back. When the computer's clock is set back, it goes on from where it was; when that is put
 * right again, it follows. A night asleep is time that passed. `behind` is by how much the computer's clock is behind, ms.
 */
export class SteadyClock {
  private base: { wall: number; ticks: number };

  constructor(
    private readonly sources: TimeSources,
    private lag = 0,
  ) {
    this.base = { wall: sources.wall() + lag, ticks: sources.ticks() };
  }

  get behind(): number {
    return this.lag;
  }

  now(): number {
    const raw = this.sources.wall();
    const ticks = this.sources.ticks();
    const expected = this.base.wall + (ticks - this.base.ticks);
    let wall = raw + this.lag;
    if (wall < expected - JITTER_MS) {
      this.lag += expected - wall;
      wall = expected;
    } else if (wall > expected + JITTER_MS) {
      // Time that passed asleep, or a clock that was put right: then it needs no help any more.
      const jump = wall - expected;
      if (this.lag > 0 && jump > this.lag / 2) {
        this.lag = Math.max(0, this.lag - jump);
        wall = Math.max(expected, raw + this.lag);
      }
    }
    this.base = { wall: Math.max(wall, expected - JITTER_MS), ticks };
    return Math.round(this.base.wall);
  }

  /** Goes on from `ms` where the clock is behind something that already happened. */
  notBefore(ms: number): void {
    const short = ms - this.now();
    if (short <= 0) return;
    this.lag += short;
    this.base = { wall: this.base.wall + short, ticks: this.sources.ticks() };
  }
}
