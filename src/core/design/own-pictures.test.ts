import { describe, expect, it } from 'vitest';
import { parsePlan } from '../bundle/index.ts';
import { ProblemError } from '../outcome/index.ts';
import { planOf } from '../questions/example.ts';
import { write } from '../say/index.ts';
import { donorSets } from '../sheets/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import {
  faceOf,
  factorIn,
  hasRoomForStrip,
  isAllTarget,
  levelNames,
  missingPicture,
  type PlanPicture,
  pictureOn,
  sizeOf,
  TARGET,
  type TrialPlan,
} from '../trial/index.ts';
import { EXAMPLE_REQUEST } from './example.ts';
import {
  boardGrid,
  coatMl,
  insideBoard,
  movePatch,
  type PlanRequest,
  planCost,
  planTrial,
  requestOf,
  smallestBoard,
} from './index.ts';

const picture = (id: string, part: Partial<PlanPicture> = {}): PlanPicture => ({
  ...{ id, name: `The ${id}`, how: 'whole', at: { x: 0.5, y: 0.5 }, strip: false },
  ...part,
});
const asked = (part: Partial<PlanRequest>) =>
  planTrial({ ...EXAMPLE_REQUEST, ...part }, STARTER_SHELF, {
    createdAt: '2026-05-02T08:00:00.000Z',
    random: () => 0.3,
  });
const plan = (part: Partial<PlanRequest>): TrialPlan => {
  const made = asked(part);
  if (!made.ok) throw new ProblemError(made.problem);
  return made.value;
};
const refused = (part: Partial<PlanRequest>): string => {
  const made = asked(part);
  if (made.ok) throw new Error('was taken');
  return `${write(made.problem.say)} ${write(made.problem.wayOut ?? '')}`;
};
const varied = (levels: string[]) => [{ key: 'picture' as const, levels }, EXAMPLE_REQUEST.factors[0]];

describe('what a patch carries', () => {
  it('is the test target, as large as its shorter side, where nothing else is chosen', () => {
    const tall = plan({ patchTallMm: 60 });
    expect(faceOf(tall, tall.patches[0])).toEqual({ w: 40, h: 60, target: { x: 0, y: 0, size: 40 } });
    const wide = plan({ patchMm: 60, patchTallMm: 30 });
    expect(faceOf(wide, wide.patches[0]).target).toEqual({ x: 0, y: 0, size: 30 });
    expect(isAllTarget(wide)).toBe(true);
  });

  it('is one picture on every patch, with steps below it where there is room', () => {
    const gull = picture('gull', { strip: true });
    const made = plan({ patchTallMm: 60, picture: 'gull', pictures: [gull] });
    const face = faceOf(made, made.patches[3]);
    expect(face.target).toBeUndefined();
    expect(face.strip).toEqual({ x: 0, y: 50, w: 40, h: 10 });
    expect(face.picture).toEqual({ x: 0, y: 0, w: 40, h: 49, of: gull });
    expect(isAllTarget(made)).toBe(false);
    expect(faceOf({ ...made, pictures: [picture('gull')] }, made.patches[0]).picture).toMatchObject({
      h: 60,
    });
  });

  it('is another from patch to patch where the picture is varied, the target among them', () => {
    const made = plan({ factors: varied([TARGET.id, 'gull']), pictures: [picture('gull')] });
    const names = made.patches.map(p => [levelNames(made, p)[0], pictureOn(made, p)?.name] as const);
    expect(new Set(names.map(([level, own]) => `${write(level ?? '')},${own ?? ''}`))).toEqual(
      new Set(['Test target,', 'The gull,The gull']),
    );
    expect(names.filter(([, own]) => own)).toHaveLength(made.patches.length / 2);
    expect(factorIn(made, 'picture')).toBe('Picture');
  });

  it('has no room for steps on small patches', () => {
    expect([{ patchMm: 35 }, { patchMm: 36 }, { patchMm: 60, patchTallMm: 22 }].map(hasRoomForStrip)).toEqual(
      [false, true, false],
    );
    expect(refused({ patchMm: 30, picture: 'gull', pictures: [picture('gull', { strip: true })] })).toBe(
      'Patches of 30 mm have no room for tone steps below “The gull”. Make them larger, or leave the steps out.',
    );
  });

  it('is refused where it is not among the pictures of the trial', () => {
    const why = 'A picture that is to be printed is not among those of the trial. Choose it again.';
    expect(refused({ picture: 'gull' })).toBe(why);
    expect(refused({ factors: varied(['gull', 'tern']), pictures: [picture('gull')] })).toBe(why);
    const made = plan({ factors: varied([TARGET.id, 'gull']), pictures: [picture('gull')] });
    expect(missingPicture(made)).toBeUndefined();
    const opened = parsePlan({ ...made, pictures: [] });
    expect(write(opened.ok ? 'taken' : opened.problem.say)).toBe(
      'The plan names a picture but does not hold it.',
    );
    expect(parsePlan(made)).toMatchObject({ ok: true });
  });

  it('comes along when a trial is planned again', () => {
    const gull = picture('gull');
    const again = requestOf(plan({ patchTallMm: 60, picture: 'gull', pictures: [gull] }));
    expect(again).toMatchObject({ patchTallMm: 60, picture: 'gull', pictures: [gull] });
    expect(requestOf(plan({}))).not.toHaveProperty('pictures');
  });
});

describe('the donor sheets of pictures', () => {
  const bytes = (n: number) => new Uint8Array([n]);
  const onPatches = {
    gull: { seen: bytes(1), mirrored: bytes(2) },
    tern: { seen: bytes(3), mirrored: bytes(4) },
  };
  const imagesOf = (of: TrialPlan, known: object = onPatches) =>
    donorSets(of, { onPatches: known as typeof onPatches }).map(set => ({
      images: set.images,
      placed: set.pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'image' ? [m] : []))),
      words: set.pages.flatMap(p => p.marks.flatMap(m => (m.kind === 'text' ? [m.words] : []))),
      shapes: set.pages.flatMap(p => p.marks.filter(m => m.kind === 'shape')).length,
    }));

  it('print each on its patches at its size, mirrored where the method asks for it, and hold no other', () => {
    const made = plan({ patchTallMm: 60, picture: 'gull', pictures: [picture('gull')] });
    const [set] = imagesOf(made);
    expect(set.placed).toHaveLength(made.patches.length);
    for (const image of set.placed) expect(image).toMatchObject({ w: 40, h: 60, key: 'patch gull mirrored' });
    expect(set.images).toEqual({ 'patch gull mirrored': bytes(2) });
    expect(set.shapes).toBe(0);
    const rows = new Set(set.placed.map(m => Math.round(m.y)));
    expect([...rows].sort((a, b) => a - b).slice(0, 2)).toEqual([38, 38 + 60 + 15]);
  });

  it('are the right way round for a method that is not mirrored', () => {
    const made = { ...planOf('tissue-embed'), picture: 'gull', pictures: [picture('gull')] };
    expect(imagesOf(made).map(s => s.images)).toEqual([{ 'patch gull': bytes(1) }]);
  });

  it('put the steps below it, and the target where that is the level', () => {
    const steps = plan({ patchTallMm: 60, picture: 'gull', pictures: [picture('gull', { strip: true })] });
    const [below] = imagesOf(steps);
    expect(below.shapes).toBeGreaterThan(0);
    expect(below.placed[0]).toMatchObject({ h: 49 });
    const mixed = plan({
      factors: varied([TARGET.id, 'gull']),
      pictures: [picture('gull'), picture('tern')],
    });
    const [set] = imagesOf(mixed);
    expect(set.placed).toHaveLength(mixed.patches.length / 2);
    expect(Object.keys(set.images!)).toEqual(['patch gull mirrored']);
  });

  it('say of a picture whose file is missing that it is', () => {
    const [set] = imagesOf(plan({ picture: 'gull', pictures: [picture('gull')] }), {});
    expect(set.placed).toEqual([]);
    expect(set.words.map(x => write(x))).toContain('The file of “The gull” is missing.');
  });
});

describe('patches that are not square', () => {
  const size = { w: 40, h: 60 };

  it('lie on a board in as many columns and rows as their sides let them', () => {
    const grid = boardGrid({ w: 200, h: 150 }, size, 10, 10);
    expect([grid.cols, grid.rows]).toEqual([3, 2]);
    expect(grid.places.map(p => [p.x, p.y])).toEqual(
      [5 + 5, 80].flatMap(y => [30, 80, 130].map(x => [x, y])),
    );
    expect(smallestBoard(6, size, 10, 10)).toEqual({ w: 160, h: 150 });
    expect(insideBoard({ w: 100, h: 80 }, 10, 10, size, 10)).toBe(true);
    expect(insideBoard({ w: 100, h: 79 }, 10, 10, size, 10)).toBe(false);
    expect(insideBoard({ w: 59, h: 80 }, 10, 10, size, 10)).toBe(false);
  });

  it('take as much medium as they are large', () => {
    expect(coatMl(size, 1)).toBeCloseTo(((44 * 64) / 1000) * 1.25, 9);
    const area = (of: TrialPlan) => planCost(of).mediums[0].ml;
    expect(area(plan({ patchTallMm: 60 })) / area(plan({}))).toBeCloseTo((44 * 64) / (44 * 44), 6);
  });

  it('keep their distance each way when they are moved, and are refused where they lie on one another', () => {
    const made = plan({ patchTallMm: 60, board: { ...EXAMPLE_REQUEST.board, w: 400, h: 400 } });
    const [a, b] = made.patches;
    const to = (dx: number, dy: number) => {
      const alone = { ...made, patches: [a, { ...b, board: a.board, x: 200, y: 200 }] };
      const found = movePatch(alone, a.code, { board: a.board, x: 200 + dx, y: 200 + dy });
      return found.ok ? 'moved' : found.problem.code;
    };
    expect([to(49, 0), to(47, 0), to(0, 69), to(0, 67), to(0, -67), to(-49, 0)]).toEqual([
      'moved',
      'too-close',
      'moved',
      'too-close',
      'too-close',
      'moved',
    ]);
    const over = {
      ...made,
      patches: made.patches.map((p, i) => (i ? p : { ...p, x: b.x, y: b.y - 50, board: b.board })),
    };
    expect(parsePlan(over).ok).toBe(false);
    expect(sizeOf(made)).toEqual(size);
  });

  it('are refused on a sheet that one of their sides does not fit on', () => {
    const narrow = {
      ...STARTER_SHELF,
      donors: STARTER_SHELF.donors.map(d => ({ ...d, sheet: { w: 100, h: 200 } })),
    };
    const on = (part: object) => {
      const made = planTrial({ ...EXAMPLE_REQUEST, ...part } as PlanRequest, narrow, {
        createdAt: '2026-05-02T08:00:00.000Z',
        random: () => 0.3,
      });
      return made.ok ? 'fits' : made.problem.code;
    };
    expect(on({ patchMm: 60, patchTallMm: 90, board: { ...EXAMPLE_REQUEST.board, w: 600, h: 600 } })).toBe(
      'fits',
    );
    expect(on({ patchMm: 90, patchTallMm: 60, board: { ...EXAMPLE_REQUEST.board, w: 600, h: 600 } })).toBe(
      'sheet-too-small',
    );
  });
});
