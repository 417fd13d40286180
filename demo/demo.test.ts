import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { loadCv } from '../src/cli/node-cv.ts';
import { decode } from '../src/cli/node-image.ts';
import { readBundle, type TrialBundle } from '../src/core/bundle/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { progressOf } from '../src/core/progress/index.ts';
import { readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { nextAction } from '../src/core/schedule/index.ts';
import { readingOf } from '../src/core/trial/index.ts';

const index = JSON.parse(readFileSync('public/demo/index.json', 'utf8')) as {
  madeFor: string;
  trials: string[];
};
const open = (file: string): TrialBundle => {
  const bundle = readBundle(new Uint8Array(readFileSync(`public/demo/${file}`)));
  if (!bundle.ok) throw new Error(bundle.problem.say);
  return bundle.value;
};
const [finished, drying, planned] = index.trials.map(open);

describe('the demo workshop Gannet Slip', () => {
  it('has one trial finished, one in the middle of drying, one just planned', () => {
    const now = Date.parse(index.madeFor);
    expect(nextAction(progressOf(finished.plan, finished.records), now).kind).toBe('finished');
    expect(finished.plan.patches.every(p => readingOf(finished.records, p.code))).toBe(true);
    expect(nextAction(progressOf(drying.plan, drying.records), now).kind).toBe('wait');
    expect(planned.records).toEqual([]);
  });

  it('shows what the reading code reads from its photos today, not what the simulator knows', async () => {
    const { cv } = await loadCv();
    for (const patch of finished.plan.patches.slice(0, 2)) {
      const { reading, photo } = readingOf(finished.records, patch.code)!;
      const read = readPhoto(
        cv,
        await decode(finished.photos.get(photo.photo)!),
        card(finished.plan.patchMm),
        referenceOf(target(finished.plan.patchMm)),
        { stage: 'dry' },
      );
      expect(read.ok && read.value.reading).toEqual(reading.reading);
    }
  });
});
