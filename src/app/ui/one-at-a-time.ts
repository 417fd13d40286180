/** Nothing on the screen changes for a write that takes less, ms. */
const SHOW_BUSY_MS = 150;

/**
 * Work of which one is done at a time: what is asked for while it goes on is not done, and gives false. `tell` hears that
 * it takes long, and when that is over.
 */
export class OneAtATime {
  private going = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  constructor(private readonly tell: (isLong: boolean) => void) {}

  async run(work: () => Promise<boolean>): Promise<boolean> {
    if (this.going) return false;
    this.going = true;
    this.timer = setTimeout(() => this.tell(true), SHOW_BUSY_MS);
    try {
      return await work();
    } finally {
      this.going = false;
      clearTimeout(this.timer);
      this.tell(false);
    }
  }

  /** Nobody listens any more. */
  leave(): void {
    clearTimeout(this.timer);
  }
}
