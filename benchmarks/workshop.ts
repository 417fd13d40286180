import { createWriteStream, mkdtempSync, openAsBlob, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { jpegOf } from '../src/core/bundle/example.ts';
import { examplePlan } from '../src/core/design/example.ts';
import { entriesOf, findIn, notebookOf } from '../src/core/find/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { STARTER_SHELF } from '../src/core/shelf/index.ts';
import { readingFor } from '../src/core/trial/example.ts';
import type { TrialRecord } from '../src/core/trial/index.ts';
import { backUp, lookThrough, takeIn } from '../src/store/backup.ts';
import { emptyData, memoryStores } from '../src/store/example.ts';
import { openWorkshop } from '../src/store/workshop.ts';

const TRIALS = 500;
/** Of each trial: twelve with a reading, eight beside. */
const PHOTOS = 20;
/** What a photo on the disk comes to, bytes. */
const PHOTO_BYTES = 120_000;

const mb = (bytes: number) => `${(bytes / 1e6).toFixed(0)} MB`;

/** Runs something and says how long it took and how much more memory it held at its height. */
async function measured<T>(what: string, say: (line: string) => void, work: () => Promise<T>): Promise<T> {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss);
  }, 20);
  const start = performance.now();
  const result = await work();
  clearInterval(watch);
  say(
    `  ${what.padEnd(44)} ${((performance.now() - start) / 1000).toFixed(1).padStart(6)} s, ${mb(most - before)} more memory at its height`,
  );
  return result;
}

/**
 * A workshop of 500 trials, 6000 patches and 10 000 photos: opened, searched, backed up, looked through, taken in, and
 * joined with another like it. Photos lie on the disk, as a browser keeps them; what is taken in is let go, so that what
 * is measured is ours.
 */
export async function benchWorkshop(say: (line: string) => void) {
  const dir = mkdtempSync(join(tmpdir(), 'wet-test-workshop-'));
  const photoFile = join(dir, 'photo.jpg');
  const bytes = new Uint8Array(PHOTO_BYTES).map((_, i) => (i * 7919) & 255);
  bytes.set(jpegOf(1, 1200, 900));
  writeFileSync(photoFile, bytes);
  const photo = await openAsBlob(photoFile, { type: 'image/jpeg' });
  const kept = (data = emptyData()) => {
    const { stores } = memoryStores(data);
    // A photo is named in the store and lies on the disk.
    const photos = {
      ...stores.photos,
      setItem: async <T>(key: string, value: T) => {
        await stores.photos.setItem(key, true);
        return value;
      },
      getItem: async <T>(key: string) => ((await stores.photos.getItem(key)) ? photo : null) as T | null,
    };
    return openWorkshop('mine', { stores: async () => ({ ...stores, photos }) });
  };
  const fill = async (shift: number) => {
    const workshop = kept();
    for (let n = 0; n < TRIALS; n++) {
      const plan = examplePlan({}, n + 1);
      await workshop.savePlan({ ...plan, name: `Trial ${n}` });
      const records: TrialRecord[] = [];
      const photos = new Map<string, Blob>();
      plan.patches.forEach((p, i) => {
        records.push(...readingFor(p.code, i + shift, { landed: 60 + ((n + i) % 40), veil: 0.1 }));
      });
      for (let k = 0; k < PHOTOS - plan.patches.length; k++)
        records.push({
          ...{
            id: `x${shift}${k}`,
            at: '2026-05-05T10:00:00.000Z',
            kind: 'photo',
            patch: plan.patches[k].code,
          },
          ...{ photo: `x${shift}${k}`, stage: 'dry', round: 1, name: 'x', simulated: false, takenAt: null },
        });
      for (const r of records) if (r.kind === 'photo') photos.set(r.photo, photo);
      await workshop.append(plan.id, records, photos);
    }
    return workshop;
  };
  say(
    `a workshop of ${TRIALS} trials, ${TRIALS * 12} patches, ${TRIALS * PHOTOS} photos of ${PHOTO_BYTES / 1000} kB:`,
  );
  const workshop = await measured('made', say, () => fill(0));
  await measured('opened after an update (all summed up anew)', say, () => workshop.overview());
  const { trials } = await measured('opened again (1 s)', say, () => workshop.overview());
  const notebook = await measured('notebook made ready to be searched', say, async () =>
    notebookOf(
      entriesOf(
        trials.map(t => t.summary),
        [],
        STARTER_SHELF,
        [],
      ),
    ),
  );
  const typed = 'matte acrylic 20 h';
  let slowest = 0;
  for (let i = 1; i <= typed.length; i++) {
    const start = performance.now();
    findIn(notebook, typed.slice(0, i));
    slowest = Math.max(slowest, performance.now() - start);
  }
  say(
    `  slowest of ${typed.length} keystrokes searched              ${slowest.toFixed(0).padStart(5)} ms (150)`,
  );
  const backupOf = async (of: typeof workshop, name: string) => {
    const path = join(dir, name);
    const to = Writable.toWeb(createWriteStream(path)) as WritableStream<Uint8Array>;
    await backUp(of, to, '2026-05-06T00:00:00.000Z');
    return openAsBlob(path);
  };
  const file = await measured('backed up', say, () => backupOf(workshop, 'one.zip'));
  say(`  the file: ${mb(file.size)}`);
  const look = async () => {
    const found = await lookThrough(file);
    if (!found.ok) throw new ProblemError(found.problem);
    return found.value;
  };
  const backup = await measured('looked through', say, look);
  const restored = kept();
  await measured('taken into an empty workshop', say, () => takeIn(restored, backup));
  await measured('opened for the first time after that (1 s)', say, () => restored.overview());
  const other = await fill(100);
  await measured('joined with another that went on apart (60 s)', say, () => takeIn(other, backup));
  rmSync(dir, { recursive: true });
}
