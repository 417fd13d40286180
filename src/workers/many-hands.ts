/** One that works beside others: it is given the way to take up one task after another, and ends when none is left. */
export type Hand<T, R> = (work: (use: (task: T) => Promise<R>) => Promise<void>) => Promise<void>;

/** More hands than this gain little, and each has a memory of its own to fill. */
const MOST_HANDS = 4;
/** So few tasks are done sooner than another hand is there. */
const ALONE = 3;

/**
 * How many hands are worth calling for so many tasks on a machine of so many cores; none where one does it alone.
 */
export const handsFor = (tasks: number, cores: number): number =>
  tasks <= ALONE || cores < 2 ? 0 : Math.min(MOST_HANDS, cores);

/**
 * Does all tasks with several hands at once, each taking up the next one that is left; what a hand that fails had in it
 * is done `here`. Returns the results in the order of the tasks; `done` hears how many there are.
 */
export async function inManyHands<T, R>(
  tasks: readonly T[],
  hands: readonly Hand<T, R>[],
  here: (task: T) => R | Promise<R>,
  done: (count: number) => void = () => {},
): Promise<R[]> {
  const results = new Map<number, R>();
  const keep = (i: number, result: R) => {
    results.set(i, result);
    done(results.size);
  };
  const waiting = tasks.entries();
  await Promise.allSettled(
    hands.map(hand =>
      hand(async use => {
        for (const [i, task] of waiting) keep(i, await use(task));
      }),
    ),
  );
  for (const [i, task] of tasks.entries()) if (!results.has(i)) keep(i, await here(task));
  return tasks.map((_, i) => results.get(i)!);
}
