import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { loadCv } from '../src/cli/node-cv.ts';
import { decode } from '../src/cli/node-image.ts';
import { readBundle, type TrialBundle } from '../src/core/bundle/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { card, target } from '../src/core/print/index.ts';
import { progressOf } from '../src/core/progress/index.ts';
import { readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { nextAction } from '../src/core/schedule/index.ts';
import { readingOf } from '../src/core/trial/index.ts';

const index = JSON.parse(readFileSync('public/demo/index.json', 'utf8')) as {
  madeFor: string;
  first: number;
  trials: string[];
};
const open = (file: string): TrialBundle => {
  const bundle = readBundle(new Uint8Array(readFileSync(`public/demo/${file}`)));
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value;
};
const all = index.trials.map(open);
const [finished, drying, planned] = all;

describe('the demo workshop Gannet Slip', () => {
  it('has one trial finished, one in the middle of drying, one just planned', () => {
    const now = Date.parse(index.madeFor);
    expect(nextAction(progressOf(finished.plan, finished.records), now).kind).toBe('finished');
    expect(finished.plan.patches.every(p => readingOf(finished.records, p.code))).toBe(true);
    expect(nextAction(progressOf(drying.plan, drying.records), now).kind).toBe('wait');
    expect(planned.records).toEqual([]);
  });

  it('has ten trials over seven methods and more, so that every stage has something to show', () => {
    expect(all).toHaveLength(10);
    expect(index.first).toBe(3);
    const methods = new Set(all.map(t => t.plan.used.method.id));
    expect(methods.size).toBeGreaterThanOrEqual(5);
    const kinds = new Set(all.flatMap(t => t.plan.used.substrates.map(s => s.kind)));
    expect(kinds.size).toBeGreaterThanOrEqual(5);
    const records = all.flatMap(t => t.records);
    const photos = records.flatMap(r => (r.kind === 'photo' ? [r] : []));
    expect(photos.every(p => p.simulated)).toBe(true);
    expect(photos.some(p => p.worn === 'wash')).toBe(true);
    expect(new Set(photos.map(p => p.round)).size).toBeGreaterThanOrEqual(3);
    expect(all.some(t => t.plan.pictures?.length)).toBe(true);
    expect(all.some(t => t.plan.design.stripKey)).toBe(true);
    expect(all.some(t => t.records.filter(r => r.kind === 'air').length > 1)).toBe(true);
    // Every trial that was photographed is read, nearly all of it.
    for (const { plan, records: own } of all.filter(t => t.records.some(r => r.kind === 'photo'))) {
      const read = plan.patches.filter(p => readingOf(own, p.code)).length;
      expect(read / plan.patches.length, plan.name).toBeGreaterThan(0.7);
    }
  });

  it('has one board gone wrong as a whole', () => {
    const { plan, records } = all[index.trials.indexOf('locker-doors.zip')];
    const mean = (board: number) => {
      const own = plan.patches.filter(p => p.board === board);
      const landed = own.map(p => readingOf(records, p.code)!.reading.reading.landed!);
      return landed.reduce((a, b) => a + b, 0) / own.length;
    };
    expect(mean(0)).toBeGreaterThan(mean(1) + 20);
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
