import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { decode, encodeJpeg } from '../../cli/node-image.ts';
import { examplePlan } from '../design/example.ts';
import { ProblemError } from '../outcome/index.ts';
import { card, target } from '../print/index.ts';
import { exampleHistory } from '../simulator/example.ts';
import { photograph, photographBoard, printedScene, simulateProcess } from '../simulator/index.ts';
import { faceOf } from '../trial/index.ts';
import {
  boardOf,
  type Cv,
  findCard,
  likeliestCard,
  type Pixels,
  readBoard,
  readByHand,
  referenceOf,
  referenceOfFace,
  type Spot,
  whatHolds,
} from './index.ts';

let cv: Cv;
beforeAll(async () => {
  cv = (await loadCv()).cv;
});

const settings = exampleHistory().settings;
const piece = simulateProcess(exampleHistory({ seed: 21, driedHours: 15 }));
const onCard = card(40);

describe('corners set by hand', () => {
  let photo: Pixels;
  let corners: Spot[];
  let truth: { landed: number };
  beforeAll(async () => {
    const shot = photograph(piece, target(40), onCard, settings.substrate, settings.preparation, {
      ...{ seed: 8, stage: 'dry', pxPerMm: 8, tiltDeg: 14, falloff: 0.3 },
    });
    truth = shot;
    photo = await decode(await encodeJpeg(shot.photo, 85));
    const place = findCard(cv, photo, onCard);
    if (!place.ok) throw new ProblemError(place.problem);
    const { window } = onCard;
    // Where the picture lies in the photo, as a hand would set it that is half a millimetre off.
    const h = place.value.homography;
    corners = [
      [3.5, 3],
      [43, 3.4],
      [42.6, 43],
      [3, 42.7],
    ].map(([x, y]) => {
      const [px, py] = [window.x + x, window.y + y];
      const d = h[6] * px + h[7] * py + h[8];
      return { x: (h[0] * px + h[1] * py + h[2]) / d, y: (h[3] * px + h[4] * py + h[5]) / d };
    });
  });

  it('read what landed, and withhold what needs white paper', () => {
    const read = readByHand(cv, photo, corners, referenceOf(target(40)), { stage: 'dry' });
    if (!read.ok) throw new ProblemError(read.problem);
    const { reading } = read.value;
    expect(reading.byHand).toBe(true);
    expect(Math.abs(reading.landed! - truth.landed)).toBeLessThan(3);
    expect([reading.veil, reading.stain, reading.tone, reading.smear]).toEqual([null, null, null, null]);
    expect(reading.notes[0]).toContain('set by hand');
    expect(reading.mirrored).toBe(false);
  });

  it('are refused where they cross, run the other way round, or are too near each other', () => {
    const of = (spots: readonly Spot[]) =>
      readByHand(cv, photo, spots, referenceOf(target(40)), { stage: 'dry' });
    const [a, b, c, d] = corners;
    for (const wrong of [
      [a, c, b, d],
      [d, c, b, a],
      [a, b, c],
      [a, a, c, d],
    ])
      expect(of(wrong)).toMatchObject({ ok: false, problem: { code: 'no-corners-by-hand' } });
    const tiny = [
      { x: 100, y: 100 },
      { x: 180, y: 100 },
      { x: 180, y: 180 },
      { x: 100, y: 180 },
    ];
    expect(of(tiny)).toMatchObject({ ok: false, problem: { code: 'too-small' } });
  });

  it('are not needed where a card is seen, whose size is told by its markers', () => {
    expect(whatHolds(cv, photo)).toBe('card');
    expect(likeliestCard(cv, photo, [card(60, 40), card(40), card(50)])).toEqual(card(40));
    expect(likeliestCard(cv, photo, [card(60, 40)])).toEqual(card(60, 40));
    const none: Pixels = { w: 300, h: 200, data: new Uint8ClampedArray(300 * 200 * 4).fill(140) };
    expect(whatHolds(cv, none)).toBe('nothing');
    expect(likeliestCard(cv, none, [card(60, 40), card(40)])).toEqual(card(60, 40));
  });
});

describe('a board of a plan', () => {
  const MM = 25;
  const plan = examplePlan({
    factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
    repeats: 1,
    patchMm: MM,
    board: { w: 100, h: 70, outline: 'rectangle', onePiece: false },
  });

  it('is read as it lies, with its patches where the plan has them', async () => {
    const printed = printedScene(target(MM), 20);
    const outcomes = [15, 4].map((driedHours, i) =>
      simulateProcess(exampleHistory({ seed: 31 + i, driedHours, patchMm: MM })),
    );
    const photo = photographBoard(
      {
        size: { w: plan.board.w, h: plan.board.h },
        patches: plan.patches.map((p, i) => ({
          ...{ x: p.x, y: p.y, outcome: outcomes[i], printed },
          ...{ substrate: settings.substrate, preparation: settings.preparation },
        })),
      },
      { seed: 5, stage: 'dry', pxPerMm: 8, tiltDeg: 8, falloff: 0.2 },
    );
    const jpeg = await decode(await encodeJpeg(photo, 85));
    expect(whatHolds(cv, jpeg)).toBe('corners');
    const board = boardOf(plan, 0, p => referenceOfFace(cv, faceOf(plan, p)));
    expect(board.patches.map(p => p.code)).toEqual(plan.patches.map(p => p.code));
    expect(board.taken).toHaveLength(2);
    const read = readBoard(cv, jpeg, board, 'dry');
    if (!read.ok) throw new ProblemError(read.problem);
    for (const [i, { code, read: one }] of read.value.entries()) {
      expect(code).toBe(plan.patches[i].code);
      if (!one.ok) throw new ProblemError(one.problem);
      const held = outcomes[i].landed;
      const inked = referenceOf(target(MM)).light.data;
      let [n, of] = [0, 0];
      for (let k = 0; k < held.length; k++)
        if (inked[k] < 0.6) {
          of++;
          n += held[k] >= 0.5 ? 1 : 0;
        }
      expect(Math.abs(one.value.reading.landed! - (100 * n) / of)).toBeLessThan(4);
    }
    // Without a reference a patch is left out.
    expect(boardOf(plan, 0, () => undefined).patches).toEqual([]);
  });
});

describe('what a patch carries as a reference', () => {
  const carries = { patchMm: 60, patchTallMm: 40, factors: [], pictures: undefined, picture: undefined };

  it('is the target in its corner, the picture in its room, and the strip below it', () => {
    const face = faceOf(carries, { levels: [] });
    const ours = referenceOfFace(cv, face);
    expect([ours.w, ours.h]).toEqual([600, 400]);
    expect(ours.light.data[5 * 600 + 5]).toBeLessThan(0.1);
    expect(ours.light.data[200 * 600 + 500]).toBe(1);
    expect(ours.lines?.length).toBe(8);
    const own = { id: 'x', name: 'X', how: 'whole', at: { x: 0.5, y: 0.5 }, strip: true } as const;
    const red: Pixels = {
      w: 8,
      h: 8,
      data: Uint8ClampedArray.from({ length: 256 }, (_, i) => [200, 0, 0, 255][i % 4]),
    };
    const with_ = faceOf({ ...carries, pictures: [own], picture: 'x' }, { levels: [] });
    const picture = referenceOfFace(cv, with_, red);
    const at = (x: number, y: number) => picture.rgb.map(p => p.data[y * 600 + x]);
    expect(at(300, 100)[0]).toBeGreaterThan(0.5);
    expect(at(300, 100)[1]).toBeLessThan(0.02);
    // Below it the strip has its own dark band at the upper edge.
    const stripTop = Math.round(with_.strip!.y * 10) + 3;
    expect(at(100, stripTop)[0]).toBeLessThan(0.1);
    expect(() => referenceOfFace(cv, with_)).toThrow('The file of “X” is missing.');
  });
});
