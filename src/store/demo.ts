import { readBundle, shiftTimes } from '../core/bundle/index.ts';
import type { Workshop } from './workshop.ts';

/** The files of the demo workshop and the moment they were made for. */
interface DemoIndex {
  readonly madeFor: string;
  readonly trials: readonly string[];
}

const DONE = 'demo';

/**
 * Fills the demo workshop: fetches the bundles the app ships, checks them like any import, and moves their times so
 * that "in the middle of drying" is true now. Each is noted when it is in, so that a visit that was interrupted goes
 * on where it stopped, and a demo trial that was erased does not come back. Throws when the server does not answer.
 */
export async function fillDemo(workshop: Workshop, now: number): Promise<void> {
  const { stores, locks } = await workshop.opened();
  const done = async () => new Set((await stores.meta.getItem<string[]>(DONE)) ?? []);
  const isWhole = async () => (await stores.meta.getItem<boolean>(`${DONE} whole`)) === true;
  if (await isWhole()) return;
  await locks.inTurn('wet-test demo demo', async () => {
    if (await isWhole()) return;
    const index = (await (await fetch('/demo/index.json')).json()) as DemoIndex;
    for (const file of index.trials) {
      const before = await done();
      if (before.has(file)) continue;
      const bundle = readBundle(new Uint8Array(await (await fetch(`/demo/${file}`)).arrayBuffer()));
      if (!bundle.ok) throw new Error(bundle.problem.say);
      const { plan, records, photos } = bundle.value;
      const moved = shiftTimes(plan, records, now - Date.parse(index.madeFor));
      const kept = await workshop.importTrial({ ...moved, photos });
      // One that is here already came in just before the visit was interrupted, or with an earlier version.
      if (!kept.ok && kept.problem.code !== 'here-already') throw new Error(kept.problem.say);
      await stores.meta.setItem(DONE, [...before, file]);
    }
    await stores.meta.setItem(`${DONE} whole`, true);
  });
}
