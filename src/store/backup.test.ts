import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Uint8ArrayReader, ZipWriter } from '@zip.js/zip.js';
import fc from 'fast-check';
import { strToU8, unzipSync, type Zippable, zipSync } from 'fflate';
import { describe, expect, it, onTestFinished } from 'vitest';
import { jpegOf } from '../core/bundle/example.ts';
import { examplePlan } from '../core/design/example.ts';
import { copyMethod, METHODS } from '../core/methods/index.ts';
import { Cancelled, ProblemError } from '../core/outcome/index.ts';
import { keptFrom } from '../core/recipe/index.ts';
import { write } from '../core/say/index.ts';
import { copyOf, STARTER_SHELF } from '../core/shelf/index.ts';
import { readingFor } from '../core/trial/example.ts';
import type { TrialRecord } from '../core/trial/index.ts';
import { backUp, lookThrough, takeIn } from './backup.ts';
import { EXAMPLE_PICTURE, emptyData, Killed, memoryStores } from './example.ts';
import { openWorkshop, type Workshop } from './workshop.ts';

const AT = '2026-05-05T00:00:00.000Z';
const over = (data = emptyData(), most?: number): Workshop =>
  openWorkshop('mine', { stores: async () => memoryStores(data, most).stores });
const blob = (n: number) => new Blob([jpegOf(n)], { type: 'image/jpeg' });
const one = { ...examplePlan({}, 1), name: 'First' };
const two = { ...examplePlan({}, 2), name: 'Second' };
const MAP = { w: 3, h: 2, pxPerMm: 1, data: 'AAECAwQF' };
const step = (id: string, minute: number, patch = one.patches[0].code): TrialRecord => ({
  ...{ id, at: new Date(Date.parse('2026-05-02T09:00:00Z') + minute * 60_000).toISOString() },
  ...{ kind: 'step', patch, step: 'mark', round: 1 },
});

/** A workshop with two trials, one of them removed, photos, a shelf and a method of its own, a picture, a photo that waits. */
async function furnished(data = emptyData()): Promise<Workshop> {
  const workshop = over(data);
  await workshop.savePlan(one);
  await workshop.savePlan(two);
  await workshop.append(one.id, [step('s1', 1)]);
  const read = readingFor(one.patches[0].code, 1, { landed: 88, maps: { state: MAP, veil: MAP } });
  await workshop.append(one.id, read, new Map([['p1', blob(1)]]));
  await workshop.append(two.id, [step('t1', 1, two.patches[0].code)]);
  await workshop.remove(two.id, AT);
  await workshop.saveItems('mediums', [{ ...STARTER_SHELF.mediums[0], onHandMl: 7 }]);
  await workshop.addMethod(copyMethod(METHODS[0], []));
  await workshop.addPicture(EXAMPLE_PICTURE, blob(3), blob(4));
  await workshop.addRecipeEvents([
    { id: 'm1', recipe: 'R1', at: AT, kind: 'made', of: 3, good: 2, size: { w: 200, h: 150 }, note: '' },
  ]);
  const waits = { takenAt: null, simulated: false, stage: 'dry', addedAt: AT } as const;
  await workshop.keepWaiting({ ...waits, id: 'W1', trial: one.id, name: 'late.jpg', file: blob(5) });
  return workshop;
}

async function packed(workshop: Workshop, going = {}): Promise<Blob> {
  const chunks: Uint8Array[] = [];
  const to = new WritableStream<Uint8Array>({
    write: chunk => {
      chunks.push(chunk.slice());
    },
  });
  await backUp(workshop, to, AT, going);
  return new Blob(chunks as BlobPart[]);
}
async function opened(file: Blob) {
  const found = await lookThrough(file);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value;
}

/** All that a maker can see of a workshop. */
async function shown(workshop: Workshop) {
  const { trials, damaged } = await workshop.overview();
  const each = await Promise.all(
    trials.map(async ({ summary, removedAt }) => {
      const whole = await workshop.whole(summary.id, true);
      if (!whole.ok) throw new ProblemError(whole.problem);
      const { plan, records, photos } = whole.value;
      const waiting = await workshop.waitingPhotos(summary.id);
      return [plan, removedAt, records, [...photos], waiting.map(w => [w.id, w.name, w.file.size])];
    }),
  );
  const files = await Promise.all(
    (await workshop.pictures()).map(async p => (await workshop.pictureFile(p.id, 'original'))?.size),
  );
  return JSON.stringify([
    each.sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b))),
    damaged,
    (await workshop.shelf()).shelf,
    await workshop.methods(),
    await workshop.recipeEvents(),
    await workshop.pictures(),
    files,
  ]);
}

describe('a backup of a whole workshop', () => {
  it('taken into an empty one makes it what it was, to the last byte that is shown', async () => {
    const workshop = await furnished();
    const file = await packed(workshop);
    const empty = over();
    const came = await takeIn(empty, await opened(file));
    expect(came).toMatchObject({
      fresh: 2,
      joined: 0,
      same: 0,
      photos: 1,
      pictures: 1,
      methods: 1,
      recipes: 1,
      left: [],
    });
    expect(await shown(empty)).toBe(await shown(workshop));
  });

  it('is a ZIP of plain files that other programs open, a trial’s own ZIP among them', async () => {
    const file = await packed(await furnished());
    const dir = mkdtempSync(join(tmpdir(), 'wet-test-backup-'));
    onTestFinished(() => rmSync(dir, { recursive: true, force: true }));
    const path = join(dir, 'workshop.zip');
    writeFileSync(path, new Uint8Array(await file.arrayBuffer()));
    const told = JSON.parse(
      execFileSync('python3', [
        '-c',
        [
          'import zipfile, sys, json, io',
          'z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None',
          'w = json.loads(z.read("workshop.json"))',
          'inner = zipfile.ZipFile(io.BytesIO(z.read(w["trials"][0]["file"]))); assert inner.testzip() is None',
          'print(json.dumps([sorted(z.namelist()), sorted(inner.namelist()), w["format"]]))',
        ].join('\n'),
        path,
      ]).toString(),
    );
    expect(told[0]).toEqual([
      'begun.json',
      'pictures/PIC1-original',
      'pictures/PIC1-pixels',
      ...[one.id, two.id].sort().map(id => `trials/${id}.zip`),
      'waiting/W1',
      'workshop.json',
    ]);
    expect(told[1]).toContain('trial.json');
    expect(told[2]).toBe('wet-test-workshop');
  });

  it('of what cannot be read holds it as it is stored', async () => {
    const data = emptyData();
    const workshop = await furnished(data);
    data.plans.set('ODD', { plan: { schema: 99, name: 'From the future' } });
    const file = await packed(workshop);
    const { told } = await opened(file);
    expect(told.unreadable).toEqual([{ id: 'ODD', name: 'From the future', file: 'unreadable/ODD.json' }]);
    const inside = unzipSync(new Uint8Array(await file.arrayBuffer()))['unreadable/ODD.json'];
    expect(new TextDecoder().decode(inside)).toContain('From the future');
  });

  it('is left off when it is stopped; what there is of it gives what it holds, and says that it is no whole one', async () => {
    const workshop = await furnished();
    const control = new AbortController();
    const chunks: Uint8Array[] = [];
    const to = new WritableStream<Uint8Array>({ write: c => void chunks.push(c.slice()) });
    const tell = (share: number) => share > 0.3 && control.abort();
    await expect(backUp(workshop, to, AT, { tell, signal: control.signal })).rejects.toThrow(Cancelled);
    const half = await opened(new Blob(chunks as BlobPart[]));
    expect(half.lost[0]).toMatch(/damaged or cut off/);
    expect(half.told.trials.length).toBeLessThan(2);
    await expect(lookThrough(await packed(workshop), { signal: control.signal })).rejects.toThrow(Cancelled);
  });
});

describe('two workshops that went on apart', () => {
  const parted = async () => {
    const here = await furnished();
    const there = over();
    await takeIn(there, await opened(await packed(here)));
    await here.append(one.id, [step('here', 10)]);
    await there.append(one.id, [
      step('there', 5),
      { ...step('note', 6), kind: 'note', text: 'hm' } as TrialRecord,
    ]);
    await there.append(
      one.id,
      readingFor(one.patches[1].code, 2, { landed: 70 }),
      new Map([['p2', blob(2)]]),
    );
    await there.savePlan({ ...examplePlan({}, 3), name: 'Third' });
    await here.saveItems('mediums', [{ ...STARTER_SHELF.mediums[0], onHandMl: 3 }]);
    await there.saveItems('mediums', [{ ...STARTER_SHELF.mediums[1], onHandMl: 9 }]);
    await there.saveItems('tools', [
      copyOf(
        STARTER_SHELF.tools[0],
        STARTER_SHELF.tools.map(t => t.id),
      ),
    ]);
    return { here, there };
  };

  it('are joined without loss and without doubles, whichever takes in the other', async () => {
    const { here, there } = await parted();
    const [fromHere, fromThere] = [await packed(here), await packed(there)];
    const came = await takeIn(here, await opened(fromThere));
    expect(came).toMatchObject({ fresh: 1, joined: 1, same: 1, photos: 1, records: 4, left: [] });
    await takeIn(there, await opened(fromHere));
    const recordsOf = async (w: Workshop) => (await w.records(one.id)).records;
    expect(await recordsOf(there)).toEqual(await recordsOf(here));
    const ids = (await recordsOf(here)).map(r => r.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toEqual(expect.arrayContaining(['s1', 'here', 'there', 'note']));
    expect((await here.photo(one.id, 'p2'))?.size).toBe(blob(2).size);
    // In the order of time, whoever wrote.
    expect(ids.indexOf('there')).toBeLessThan(ids.indexOf('here'));
  });

  it('count photos as they are announced, what belongs to readings apart, and name the recipes that came', async () => {
    const there = await furnished();
    const read = readingFor(one.patches[2].code, 3, { landed: 60 }).map(r =>
      r.kind === 'reading' ? { ...r, straight: 'p3s' } : r,
    );
    await there.append(
      one.id,
      read,
      new Map([
        ['p3', blob(6)],
        ['p3s', blob(7)],
      ]),
    );
    const told = one.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: p.levels[0] ? 60 + i : 90 + (i % 3) }),
    );
    const kept = keptFrom(one, told)!;
    await there.addRecipeEvents([
      { id: 'v1', recipe: 'R1', at: AT, kind: 'version', why: '', kept: { ...kept, name: 'Gauge' } },
    ]);
    const backup = await opened(await packed(there));
    const announced = backup.told.trials.reduce((sum, t) => sum + t.photos, 0);
    const data = emptyData();
    const empty = over(data);
    expect(await takeIn(empty, backup)).toMatchObject({ photos: announced, recipeNames: ['Gauge'] });
    expect(announced).toBe(2);
    // What a reading was read from is gone: it comes back, and is no photo.
    for (const store of Object.values(data))
      for (const key of [...store.keys()]) if (key.endsWith('p3s')) store.delete(key);
    expect(await empty.photo(one.id, 'p3s')).toBeFalsy();
    expect(await takeIn(empty, backup)).toMatchObject({ joined: 1, photos: 0, recipeNames: [] });
    expect((await empty.photo(one.id, 'p3s'))?.size).toBe(blob(7).size);
  });

  it('joined once more change nothing', async () => {
    const { here, there } = await parted();
    const backup = await opened(await packed(there));
    await takeIn(here, backup);
    const before = await shown(here);
    expect(await takeIn(here, backup)).toMatchObject({
      ...{ fresh: 0, joined: 0, same: 3, records: 0, photos: 0, items: 0, methods: 0, pictures: 0 },
    });
    expect(await shown(here)).toBe(before);
  });

  it('keep of the shelf what either changed; where both did, what was changed here', async () => {
    const { here, there } = await parted();
    await takeIn(here, await opened(await packed(there)));
    const { shelf } = await here.shelf();
    expect(shelf.mediums[0].onHandMl).toBe(3);
    expect(shelf.mediums[1].onHandMl).toBe(9);
    expect(shelf.tools).toHaveLength(STARTER_SHELF.tools.length + 1);
  });

  it('leave a trial as it is whose plan is another here, say so, and take in the rest', async () => {
    const { there } = await parted();
    const taken = two.patches.map(p => p.code);
    const other = { ...one, patches: one.patches.map((p, i) => ({ ...p, code: taken[i] })) };
    const odd = over();
    await odd.savePlan(other as typeof one);
    const came = await takeIn(odd, await opened(await packed(there)));
    expect(came.left).toHaveLength(1);
    expect(came.left[0]).toMatch(/^“First” is here with another plan, so it was left as it is/);
    expect(came.fresh).toBe(2);
    expect((await odd.records(one.id)).records).toEqual([]);
  });
});

describe('taking in that is broken off', () => {
  it('between any two writes loses nothing that was there, and goes on where it stopped', async () => {
    const source = await furnished();
    const backup = await opened(await packed(source));
    const wanted = await shown(source);
    let moments = 0;
    for (let most = 0; most < 400; most++) {
      const data = emptyData();
      const died = await takeIn(over(data, most), backup).then(
        () => false,
        error => {
          if (!(error instanceof Killed)) throw error;
          return true;
        },
      );
      const again = over(data);
      await takeIn(again, backup);
      expect(await shown(again), `${most} writes`).toBe(wanted);
      if (!died) break;
      moments++;
    }
    expect(moments).toBeGreaterThan(20);
  }, 60_000);

  it('by the maker leaves whole trials, and none by half', async () => {
    const backup = await opened(await packed(await furnished()));
    const control = new AbortController();
    const data = emptyData();
    const tell = (share: number) => share > 0 && control.abort();
    await expect(takeIn(over(data), backup, { tell, signal: control.signal })).rejects.toThrow(Cancelled);
    const { trials, damaged } = await over(data).overview();
    expect([trials.length, damaged.length]).toEqual([1, 0]);
  });
});

describe('a file that is no backup, or a damaged one', () => {
  const bytesOf = async (file: Blob) => new Uint8Array(await file.arrayBuffer());

  it('is refused in words', async () => {
    const whole = unzipSync(await bytesOf(await packed(await furnished())));
    const told = JSON.parse(new TextDecoder().decode(whole['workshop.json']));
    const listed = (part: object) => ({
      ...whole,
      'workshop.json': strToU8(JSON.stringify({ ...told, ...part })),
    });
    const cases: [Zippable, string, RegExp][] = [
      [{ 'trial.json': strToU8('{}') }, 'foreign', /“trial\.json”, which Wet Test never writes/],
      [{ 'workshop.json': strToU8('{') }, 'broken', /list of what is in this file/],
      [{ 'workshop.json': strToU8('{}') }, 'foreign', /holds no Wet Test workshop/],
      [{ ...whole, '../evil.json': strToU8('x') }, 'foreign', /never writes/],
      [listed({ schema: 99 }), 'newer', /newer/],
      [listed({ trials: [...told.trials, told.trials[0]] }), 'broken', /lists a trial twice/],
      [listed({ trials: [{ ...told.trials[0], records: -1 }] }), 'broken', /damaged at trials\.0\.records/],
      [listed({ shelf: [{ kind: 'mediums', item: { id: 'x' } }] }), '', /./],
    ];
    for (const [files, code, say] of cases) {
      const found = await lookThrough(new Blob([zipSync(files) as BlobPart]));
      if (found.ok) throw new Error(`${say} was taken`);
      if (code) expect(found.problem.code).toBe(code);
      expect(write(found.problem.say)).toMatch(say);
    }
    expect((await lookThrough(new Blob(['hello']))).ok).toBe(false);
    expect((await lookThrough(new Blob([]))).ok).toBe(false);
  });

  it('gives every trial that is whole, and names the one that is not', async () => {
    const whole = unzipSync(await bytesOf(await packed(await furnished())));
    const { [`trials/${one.id}.zip`]: _, ...without } = whole;
    const cases: [Zippable, RegExp][] = [
      [without, /“First”: It is missing from this backup/],
      [
        { ...whole, [`trials/${one.id}.zip`]: whole[`trials/${two.id}.zip`] },
        /“First” is another trial than it says/,
      ],
      [{ ...whole, [`trials/${one.id}.zip`]: strToU8('no zip') }, /“First”: /],
    ];
    for (const [files, say] of cases) {
      const found = await opened(new Blob([zipSync(files) as BlobPart]));
      expect(found.lost).toEqual([expect.stringMatching(say)]);
      const empty = over();
      const came = await takeIn(empty, found);
      expect(came).toMatchObject({ fresh: 1, methods: 1, pictures: 1, recipes: 1, left: found.lost });
      expect((await empty.overview()).trials.map(t => t.summary.name)).toEqual(['Second']);
    }
  });

  /** All files of a backup, where each begins and ends. */
  const placesIn = (bytes: Uint8Array) => {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const places: { name: string; head: number; from: number; to: number }[] = [];
    for (let at = 0; view.getUint32(at, true) === 0x04034b50; ) {
      const [name, extra] = [26, 28].map(k => view.getUint16(at + k, true));
      const from = at + 30 + name + extra;
      const to = from + view.getUint32(at + 18, true);
      places.push({
        name: new TextDecoder().decode(bytes.subarray(at + 30, at + 30 + name)),
        head: at,
        from,
        to,
      });
      at = to;
    }
    return places;
  };

  it('of which 400 bytes are another anywhere gives all that they do not touch', async () => {
    const plain = await bytesOf(await packed(await furnished()));
    const places = placesIn(plain);
    expect(places.map(p => p.name)).toContain('workshop.json');
    for (let at = 0; at < plain.length; at += 2999) {
      const bytes = plain.slice();
      for (let i = at; i < Math.min(at + 400, bytes.length); i++) bytes[i] = (i * 31) & 0xff;
      const found = await opened(new Blob([bytes as BlobPart]));
      const came = over();
      await takeIn(came, found);
      for (const { id, name } of [one, two]) {
        const own = places.find(p => p.name === `trials/${id}.zip`)!;
        const isTouched = at < own.to && at + 400 > own.head;
        const there = (await came.overview()).trials.some(t => t.summary.id === id);
        if (!isTouched) expect(there, `${name}, damage at ${at}`).toBe(true);
        else expect(there || found.lost.some(l => /trial|“/i.test(l)), `${name}, damage at ${at}`).toBe(true);
      }
      const recipes = (await came.recipeEvents()).length;
      const spared = ['workshop.json', 'begun.json'].some(name => {
        const own = places.find(p => p.name === name)!;
        return at >= own.to || at + 400 <= own.head;
      });
      if (spared) expect(recipes, `recipes, damage at ${at}`).toBe(1);
    }
  });

  it('that is cut off anywhere gives all that stands before the cut', async () => {
    const plain = await bytesOf(await packed(await furnished()));
    const places = placesIn(plain);
    for (const cut of [...places.map(p => p.to), ...places.map(p => p.to - 1)]) {
      const found = await lookThrough(new Blob([plain.subarray(0, cut) as BlobPart]));
      const before = places.filter(p => p.to <= cut).map(p => p.name);
      const trials = before.filter(name => name.startsWith('trials/')).length;
      if (!found.ok) {
        expect(before).toEqual([]);
        continue;
      }
      const came = await takeIn(over(), found.value);
      expect(came.fresh, `cut at ${cut}`).toBeGreaterThanOrEqual(trials);
      expect(came.recipes).toBe(1);
      if (before.at(-1) !== 'workshop.json') expect(came.left[0]).toMatch(/damaged or cut off/);
      const pictures = before.filter(name => name.startsWith('pictures/')).length;
      expect(came.pictures).toBe(pictures === 2 ? 1 : 0);
    }
  });

  it('of an earlier version, with its sizes behind each file, is found by them when its directory is gone', async () => {
    const files = unzipSync(await bytesOf(await packed(await furnished())));
    const chunks: Uint8Array[] = [];
    const zip = new ZipWriter(new WritableStream<Uint8Array>({ write: c => void chunks.push(c.slice()) }), {
      level: 0,
    });
    for (const [name, bytes] of Object.entries(files))
      if (name !== 'begun.json')
        await zip.add(name, new Uint8ArrayReader(bytes), name === 'workshop.json' ? { level: 6 } : {});
    await zip.close();
    const old = await bytesOf(new Blob(chunks as BlobPart[]));
    const wanted = await shown(await furnished());
    for (const length of [old.length, old.length - 200]) {
      const came = over();
      const found = await opened(new Blob([old.subarray(0, length) as BlobPart]));
      expect(found.lost).toEqual([]);
      await takeIn(came, found);
      expect(await shown(came)).toBe(wanted);
    }
  });

  it('with any bytes changed, cut or doubled is refused, or taken in with what is lost named, and never harms what is there', async () => {
    const source = await furnished();
    const plain = await bytesOf(await packed(source));
    const wanted = await shown(source);
    const data = emptyData();
    const mine = over(data);
    await mine.savePlan({ ...examplePlan({}, 9), name: 'Mine' });
    const before = await shown(mine);
    let taken = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(plain.length - 1), fc.nat(255)), { maxLength: 6 }),
        fc.nat(plain.length),
        fc.constantFrom('whole', 'cut', 'doubled'),
        async (changes, at, how) => {
          const bytes = plain.slice();
          for (const [i, v] of changes) bytes[i] = v;
          const file =
            how === 'cut'
              ? new Blob([bytes.subarray(0, at) as BlobPart])
              : new Blob([bytes as BlobPart, ...(how === 'doubled' ? [bytes.subarray(at) as BlobPart] : [])]);
          const found = await lookThrough(file);
          if (!found.ok) {
            expect(write(found.problem.say).length).toBeGreaterThan(10);
            return;
          }
          taken++;
          const other = over();
          const came = await takeIn(other, found.value);
          if (!came.left.length) expect(await shown(other)).toBe(wanted);
          else expect((await other.overview()).damaged).toEqual([]);
        },
      ),
      { numRuns: 80 },
    );
    expect(taken).toBeGreaterThan(5);
    expect(await shown(mine)).toBe(before);
  }, 120_000);
});
