import { shortSide, verdictOf } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { Hatch, PatchWriting } from '../../board/marks.tsx';
import type { Stage } from '../stage.ts';
import type { TrialView } from '../view.tsx';

const VERDICT_HATCH = { keep: 'full', fix: 'lines', scrap: 'cross' } as const;

function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  return {
    what: 'with your verdicts',
    legend: 'Filled: keep. Slanted lines: fix. Crossed: scrap.',
    draw: p => {
      const v = verdictOf(records, p.code);
      return (
        <g>
          <PatchWriting
            size={size}
            head={p.code}
            strong={v ? v.verdict : undefined}
            lines={v ? [`grade ${v.grade} of 5`] : ['not judged yet']}
          />
          {v && <Hatch size={size} kind={VERDICT_HATCH[v.verdict]} />}
        </g>
      );
    },
    say: p => {
      const v = verdictOf(records, p.code);
      return v ? `${p.code}: ${v.verdict}, grade ${v.grade} of 5` : `${p.code}: not judged yet`;
    },
  };
}

/** Stage “Judge”. */
export const STAGE: Stage = {
  id: 'judge',
  place: 5,
  label: 'Judge',
  load: async () => (await import('./judge-stage.tsx')).JudgeStage,
  marks,
};
