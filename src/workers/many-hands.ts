/** One that works beside others: it is given the way to take up one task after another, and ends when none is left. */
export type Hand<T, R> = (work: (use: (task: T) => Promise<R>) => Promise<void>) => Promise<void>;

/** More hands than this, the own among them, gain little, and each has a memory of its own to fill. */
const MOST_HANDS = 4;
/** So few tasks are done sooner than another hand is there. */
const ALONE = 3;

/**
 * How many hands are worth calling beside the own for so many tasks on a machine of so many cores; none where one does it
 * alone.
 */
export const handsFor = (tasks: number, cores: number): number =>
  tasks <= ALONE || cores < 2 ? 0 : Math.min(MOST_HANDS, cores) - 1;

/**
 * Does all tasks with several hands at once and `here` as well, each taking up the next one that is left: helpers take
 * their time to come, and nothing waits for them. What a hand that fails had in it is done `here` at the end. Returns the
 * results in the order of the tasks; `done` hears how many there are.
 */
export async function inManyHands<T, R>(
  tasks: readonly T[],
  hands: readonly Hand<T, R>[],
  here: (task: T) => R | Promise<R>,
  done: (count: number) => void = () => {},
): Promise<R[]> {
  if (!tasks.length) return [];
  const results = new Map<number, R>();
  let finish = () => {};
  const finished = new Promise<void>(resolve => {
    finish = resolve;
  });
  const keep = (i: number, result: R) => {
    results.set(i, result);
    done(results.size);
    if (results.size === tasks.length) finish();
  };
  const waiting = tasks.entries();
  const own: Hand<T, R> = work =>
    work(async task => {
      const result = await here(task);
      // What the others have to say is heard before the next one is begun.
      await new Promise(resolve => setTimeout(resolve, 0));
      return result;
    });
  const ended = Promise.allSettled(
    [...hands, own].map(hand =>
      hand(async use => {
        for (const [i, task] of waiting) keep(i, await use(task));
      }),
    ),
  );
  // Who has not come by the time all is done is not waited for.
  await Promise.race([finished, ended]);
  for (const [i, task] of tasks.entries()) if (!results.has(i)) keep(i, await here(task));
  return tasks.map((_, i) => results.get(i)!);
}
