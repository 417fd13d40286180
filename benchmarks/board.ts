import { loadCv } from '../src/cli/node-cv.ts';
import { decode, encodeJpeg } from '../src/cli/node-image.ts';
import { handOfCuts, readersBeside } from '../src/cli/read-hands.ts';
import { examplePlan } from '../src/core/design/example.ts';
import { card, target } from '../src/core/print/index.ts';
import { boardOf, cutBoard, readBoard, readCut, readPhoto, referenceOf } from '../src/core/reading/index.ts';
import { exampleHistory } from '../src/core/simulator/example.ts';
import { photograph, photographBoard, printedScene, simulateProcess } from '../src/core/simulator/index.ts';
import { inManyHands } from '../src/workers/many-hands.ts';

const MM = 30;

/**
 * A board of 24 patches against one patch through the card, both from photos of some 15 MP: as a ratio in one run, in one
 * thread; and by as many readers as the machine has cores, four at most, as the application and `npm run read` do it.
 */
export async function benchBoard(say: (line: string) => void) {
  const { cv } = await loadCv();
  const plan = examplePlan({
    patchMm: MM,
    factors: [
      { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
      { key: 'coatMm', levels: [0.2, 0.4, 0.6] },
    ],
    repeats: 4,
    board: { w: 260, h: 200, outline: 'rectangle', onePiece: false },
  });
  const picture = target(MM);
  const [early, late] = [4, 15].map((driedHours, i) =>
    exampleHistory({ seed: 31 + i, driedHours, patchMm: MM }),
  );
  const outcomes = [early, late].map(simulateProcess);
  const { substrate, preparation } = early.settings;
  const printed = printedScene(picture, 20);
  const whole = photographBoard(
    {
      size: { w: plan.board.w, h: plan.board.h },
      patches: plan.patches.map((p, i) => ({
        ...{ x: p.x, y: p.y, outcome: outcomes[i % 2], printed, substrate, preparation },
      })),
    },
    { seed: 5, stage: 'dry', pxPerMm: 12, tiltDeg: 6, falloff: 0.2 },
  );
  const { photo } = photograph(outcomes[1], picture, card(MM), substrate, preparation, {
    ...{ seed: 3, stage: 'dry', pxPerMm: 40 },
  });
  const [one, all] = [await decode(await encodeJpeg(photo, 88)), await decode(await encodeJpeg(whole, 88))];
  const reference = referenceOf(picture);
  const board = boardOf(plan, 0, () => reference);
  const beside = readersBeside(board.patches.length);
  const together = async () => {
    const cuts = cutBoard(cv, all, board, 'dry');
    if (!cuts.ok) return cuts;
    await inManyHands(cuts.value, beside.hands.map(handOfCuts), cut => readCut(cv, cut()));
    return cuts;
  };
  const timed = async (work: () => { readonly ok: boolean } | Promise<{ readonly ok: boolean }>) => {
    const start = performance.now();
    if (!(await work()).ok) throw new Error('This photo was to be read.');
    return performance.now() - start;
  };
  const times: number[][] = [];
  for (let k = 0; k < 3; k++)
    times.push([
      await timed(() => readPhoto(cv, one, card(MM), reference, { stage: 'dry' })),
      await timed(() => readBoard(cv, all, board, 'dry')),
      await timed(together),
    ]);
  beside.end();
  const [single, many, shared] = [0, 1, 2].map(k => Math.min(...times.map(t => t[k])));
  say(
    `the same by ${beside.hands.length + 1} readers: ${(shared / 1000).toFixed(1)} s, ratio ${(shared / single).toFixed(1)} (3)`,
  );
  say(
    `one patch of ${((one.w * one.h) / 1e6).toFixed(0)} MP ${(single / 1000).toFixed(1)} s, a board of ${board.patches.length} patches in ${((all.w * all.h) / 1e6).toFixed(0)} MP ${(many / 1000).toFixed(1)} s: ratio ${(many / single).toFixed(1)} in one thread (3)`,
  );
}
