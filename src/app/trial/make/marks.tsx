import { patchStatus, progressOf } from '../../../core/progress/index.ts';
import { span, within } from '../../../core/say/index.ts';
import { shortSide } from '../../../core/trial/index.ts';
import { presentMs } from '../../../store/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { Hatch, PatchWriting } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';
import { PHASE_HATCH, PHASE_WORDS } from './phases.ts';

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  const progress = progressOf(plan, records);
  const now = presentMs();
  const status = new Map(progress.lines.map(l => [l.patch.code, patchStatus(l, progress.airs, now)]));
  return {
    what: 'with where every patch stands',
    legend: 'Dots: waiting. Slanted lines: ready. Crossed: overdue or spoilt. Filled: finished.',
    draw: p => {
      const s = status.get(p.code)!;
      const left = s.window && now < s.window.aim ? `${span((s.window.aim - now) / 60_000)} to go` : '';
      return (
        <g>
          <PatchWriting
            size={size}
            head={p.code}
            lines={[
              s.last ? within(s.last.step.done) : 'not begun',
              s.next ? `→ ${within(s.next.step.action)}` : PHASE_WORDS[s.phase],
              ...(s.next ? [left || PHASE_WORDS[s.phase]] : []),
            ]}
          />
          <Hatch size={size} kind={PHASE_HATCH[s.phase]} />
        </g>
      );
    },
    say: p => {
      const s = status.get(p.code)!;
      return `${p.code}: ${PHASE_WORDS[s.phase]}${s.next ? `, next: ${s.next.step.action}` : ''}`;
    },
  };
}
