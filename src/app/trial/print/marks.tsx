import { mirrors } from '../../../core/methods/index.ts';
import { say } from '../../../core/say/index.ts';
import { levelsLine, type Patch, settingsOf } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { PatchFace } from '../../board/patch-face.tsx';
import type { TrialView } from '../view.tsx';

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records, workshop } = view;
  const isMirrored = (p: Patch) => {
    const { method, donor } = settingsOf(plan, p);
    return mirrors(method, donor.kind);
  };
  const kinds = [...new Set(plan.patches.map(isMirrored))];
  const names = (p: Patch) => levelsLine(plan, p);
  return {
    what: 'with the prints',
    legend: `Each print as it lies on the donor sheet: ${kinds.length > 1 ? 'mirrored for some sheets' : kinds[0] ? 'mirrored' : 'not mirrored'}.`,
    draw: p => <PatchFace {...{ workshop, plan, records }} patch={p} mirror={isMirrored(p)} />,
    say: p => say`${p.code}: ${isMirrored(p) ? 'mirrored ' : ''}print for ${names(p)}`,
  };
}
