import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { encodeJpeg } from '../../src/cli/node-image.ts';
import { readBundle } from '../../src/core/bundle/index.ts';
import { ProblemError } from '../../src/core/outcome/index.ts';
import { card, target } from '../../src/core/print/index.ts';
import { seedOf } from '../../src/core/random/index.ts';
import {
  photograph,
  SIMULATED_WORDS,
  simulateProcess,
  truth,
  withExif,
} from '../../src/core/simulator/index.ts';
import { settingsOf, type TrialPlan } from '../../src/core/trial/index.ts';

/** The plan inside an exported ZIP. */
export function planIn(zip: Uint8Array): TrialPlan {
  const bundle = readBundle(zip);
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value.plan;
}

/** So much has to have landed of a patch to be found in its photo, %. */
const ENOUGH = 55;

/** Writes one simulated JPEG a patch into `dir`, named by its code, each made as its levels have it. Gives what is true of each. */
export async function takePhotos(plan: TrialPlan, dir: string) {
  const taken: { file: string; code: string; landed: number; veil: number }[] = [];
  for (const patch of plan.patches) {
    const settings = settingsOf(plan, patch);
    const made = (draw: number) =>
      simulateProcess({
        settings,
        air: plan.air,
        placedAfterMin: 1,
        driedHours: settings.dryHours,
        rounds: settings.rounds,
        patchMm: plan.patchMm,
        seed: seedOf(`e2e ${patch.levels} ${patch.repeat} ${draw}`),
      });
    // What is nearly all gone is rightly refused: of each another draw until enough of it is there.
    let outcome = made(0);
    for (let draw = 1; draw < 12 && truth(outcome, target(plan.patchMm)).landed < ENOUGH; draw++)
      outcome = made(draw);
    const shot = photograph(
      outcome,
      target(plan.patchMm),
      card(plan.patchMm),
      settings.substrate,
      settings.preparation,
      {
        seed: seedOf(`${patch.levels}${patch.repeat}`),
        stage: 'dry',
        pxPerMm: 9.5,
        tiltDeg: 8,
        falloff: 0.2,
      },
    );
    const file = join(dir, `${patch.code}.jpg`);
    writeFileSync(
      file,
      withExif(
        new Uint8Array(await encodeJpeg(shot.photo, 82)),
        SIMULATED_WORDS,
        new Date('2026-05-03T10:00:00Z'),
      ),
    );
    taken.push({ file, code: patch.code, landed: shot.landed, veil: shot.veil });
  }
  return taken;
}
