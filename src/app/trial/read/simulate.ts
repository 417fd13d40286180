import { seedOf } from '../../../core/random/index.ts';
import { historyOf } from '../../../core/simulator/index.ts';
import type { Patch, WearTest } from '../../../core/trial/index.ts';
import { presentMs } from '../../../store/index.ts';
import { simulateBoardPhoto, simulateGround, simulatePhoto } from '../../../workers/index.ts';
import { picturesOn } from '../../workshop/pictures-on.ts';
import type { TrialView } from '../view.tsx';

/** A practice photo of a patch, made from what was really recorded, or from the plan where nothing was. */
export async function practicePhoto(
  view: TrialView,
  { code }: Patch,
  stage: 'wet' | 'dry' | 'bare',
  round: number,
  worn?: WearTest,
): Promise<File> {
  const seed = seedOf(`${code}${round}${stage}${view.records.length}`);
  if (stage === 'bare')
    return new File([await simulateGround(view.plan, code, seed)], `${code}-simulated.jpg`, {
      type: 'image/jpeg',
    });
  // A later test comes on top of those before it.
  const tests = worn ? view.plan.wear.slice(0, view.plan.wear.indexOf(worn) + 1) : [];
  const history = historyOf(view, code, { round, at: presentMs(), worn: tests });
  const jpeg = await simulatePhoto(view.plan, await picturesOn(view), { code, history }, stage, seed);
  return new File([jpeg], `${code}-simulated.jpg`, { type: 'image/jpeg' });
}

/** A practice photo of all of a board, with its corner pieces. */
export async function practiceBoard(
  view: TrialView,
  board: number,
  stage: 'wet' | 'dry',
  roundOf: (code: string) => number,
): Promise<File> {
  const made = view.plan.patches
    .filter(p => p.board === board)
    .map(({ code }) => ({ code, history: historyOf(view, code, { round: roundOf(code), at: presentMs() }) }));
  const seed = seedOf(`${view.plan.id}${board}${stage}${view.records.length}`);
  const jpeg = await simulateBoardPhoto(view.plan, await picturesOn(view), board, made, stage, seed);
  return new File([jpeg], `board-${board + 1}-simulated.jpg`, { type: 'image/jpeg' });
}
