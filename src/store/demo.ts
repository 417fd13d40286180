import { readBundle, shiftTimes } from '../core/bundle/index.ts';
import type { Workshop } from './workshop.ts';

/** The files of the demo workshop and the moment they were made for. */
interface DemoIndex {
  readonly madeFor: string;
  readonly trials: readonly string[];
}

/**
 * Fills the demo workshop when it is empty: fetches the bundles the app ships, checks them like any
 * import, and moves their times so that "in the middle of drying" is true now. Throws when the
 * server does not answer.
 */
export async function fillDemo(workshop: Workshop, now: number): Promise<void> {
  const { trials } = await workshop.list();
  if (trials.length) return;
  const index = (await (await fetch('/demo/index.json')).json()) as DemoIndex;
  for (const file of index.trials) {
    const bundle = readBundle(new Uint8Array(await (await fetch(`/demo/${file}`)).arrayBuffer()));
    if (!bundle.ok) throw new Error(bundle.problem.say);
    const { plan, records, photos } = bundle.value;
    const moved = shiftTimes(plan, records, now - Date.parse(index.madeFor));
    await workshop.keepBundle(moved.plan, moved.records, photos);
  }
}
