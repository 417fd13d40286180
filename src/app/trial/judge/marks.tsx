import { isBlind } from '../../../core/judging/index.ts';
import { shortSide, verdictOf } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { Hatch, PatchWriting } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';

const VERDICT_HATCH = { keep: 'full', fix: 'lines', scrap: 'cross' } as const;

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  // What was judged blind is not shown where it lies until it is asked for.
  const hides = isBlind(records);
  const known = (code: string) => (hides ? undefined : verdictOf(records, code));
  const none = hides ? 'hidden' : 'not judged yet';
  return {
    what: 'with your verdicts',
    legend: hides
      ? 'Judged blind: what was said of which patch is hidden until you ask for it.'
      : 'Filled: keep. Slanted lines: fix. Crossed: scrap.',
    draw: p => {
      const v = known(p.code);
      return (
        <g>
          <PatchWriting
            size={size}
            head={p.code}
            strong={v ? v.verdict : undefined}
            lines={v ? [`grade ${v.grade} of 5`] : [none]}
          />
          {v && <Hatch size={size} kind={VERDICT_HATCH[v.verdict]} />}
        </g>
      );
    },
    say: p => {
      const v = known(p.code);
      return v ? `${p.code}: ${v.verdict}, grade ${v.grade} of 5` : `${p.code}: ${none}`;
    },
  };
}
