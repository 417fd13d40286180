import { shiftTimes } from '../core/bundle/index.ts';
import { ProblemError } from '../core/outcome/index.ts';
import type { Workshop } from './workshop.ts';

/** The files of the demo workshop, the moment they were made for, and how many of them the first view waits for. */
interface DemoIndex {
  readonly madeFor: string;
  readonly first?: number;
  readonly trials: readonly string[];
}

const DONE = 'demo';
const WHOLE = `${DONE} whole`;

/** The demo on its way in: its first trials, which a view waits for, and all of them. */
export interface DemoFilling {
  readonly first: Promise<void>;
  readonly whole: Promise<void>;
}

/**
 * Fills the demo workshop: fetches the bundles the app ships, checks them like any import, and moves their times so
 * that "in the middle of drying" is true now. Each is noted when it is in, so that a visit that was interrupted goes
 * on where it stopped, and a demo trial that was erased does not come back; two tabs take turns at them. Those after
 * the first few come in while the first view is there already; `more` hears of each. The promises reject when the
 * server does not answer.
 */
export function fillDemo(workshop: Workshop, now: number, more: () => void = () => {}): DemoFilling {
  let isFirst = () => {};
  let failed = (_: unknown) => {};
  const first = new Promise<void>((resolve, reject) => {
    isFirst = resolve;
    failed = reject;
  });
  const whole = fill(workshop, now, more, isFirst);
  whole.then(isFirst, failed);
  // Whoever waits for either hears of it; nobody has to wait for both.
  first.catch(() => {});
  whole.catch(() => {});
  return { first, whole };
}

async function fill(workshop: Workshop, now: number, more: () => void, isFirst: () => void): Promise<void> {
  const { stores, locks } = await workshop.opened();
  if (await stores.meta.getItem<boolean>(WHOLE)) return;
  const index = (await (await fetch('/demo/index.json')).json()) as DemoIndex;
  const first = index.first ?? index.trials.length;
  for (const [i, file] of index.trials.entries()) {
    if (i === first) isFirst();
    await locks.inTurn('wet-test demo demo', async () => {
      const before = new Set((await stores.meta.getItem<string[]>(DONE)) ?? []);
      if (before.has(file)) return;
      const { readBundle } = await import('../core/bundle/zip.ts');
      const bundle = readBundle(new Uint8Array(await (await fetch(`/demo/${file}`)).arrayBuffer()));
      if (!bundle.ok) throw new ProblemError(bundle.problem);
      const { plan, records, photos } = bundle.value;
      const moved = shiftTimes(plan, records, now - Date.parse(index.madeFor));
      const kept = await workshop.importTrial({ ...moved, photos });
      // One that is here already came in just before the visit was interrupted, or with an earlier version.
      if (!kept.ok && kept.problem.code !== 'here-already') throw new ProblemError(kept.problem);
      await stores.meta.setItem(DONE, [...before, file]);
    });
    if (i >= first) more();
  }
  await stores.meta.setItem(WHOLE, true);
}
