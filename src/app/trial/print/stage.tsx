import { levelNames, type Patch } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { TargetPicture } from '../../board/target-picture.tsx';
import type { Stage } from '../stage.ts';
import type { TrialView } from '../view.tsx';

function marks(view: TrialView): BoardMarks {
  const { plan } = view;
  const size = plan.patchMm;
  const names = (p: Patch) => levelNames(plan, p).join(', ');
  return {
    what: 'with the prints',
    legend: `Each print as it lies on the donor sheet: ${plan.used.method.mirror ? 'mirrored' : 'not mirrored'}.`,
    draw: () => <TargetPicture size={size} mirror={plan.used.method.mirror} />,
    say: p => `${p.code}: ${plan.used.method.mirror ? 'mirrored ' : ''}print for ${names(p)}`,
  };
}

/** Stage “Print”. */
export const STAGE: Stage = {
  id: 'print',
  place: 2,
  label: 'Print',
  load: async () => (await import('./print-stage.tsx')).PrintStage,
  marks,
};
