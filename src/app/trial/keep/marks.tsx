import { findingsAtHand } from '../../../core/findings/index.ts';
import { say } from '../../../core/say/index.ts';
import { levelsLine, type Patch, readingOf, shortSide } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { Hatch, PatchWriting } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  const names = (p: Patch) => levelsLine(plan, p);
  const found = findingsAtHand(plan, records);
  const leading = found?.leading;
  const why = new Map(found?.leftOut.map(l => [l.patch, l.why]));
  return {
    what: 'with the numbers',
    legend:
      'Landed in percent; below it the veil, or why a patch is left out. Filled foot: the leading combination.',
    draw: p => {
      const r = readingOf(records, p.code)?.reading.reading;
      return (
        <g>
          <PatchWriting
            size={size}
            head={p.code}
            strong={r?.landed != null ? `${r.landed.toFixed(0)} %` : undefined}
            lines={[why.get(p.code) ?? (r?.veil != null ? `veil ${r.veil.toFixed(2)}` : 'no dry reading')]}
          />
          {leading?.patches.includes(p.code) && <Hatch size={size} kind="full" />}
        </g>
      );
    },
    say: p => {
      const r = readingOf(records, p.code)?.reading.reading;
      const out = why.has(p.code) ? `, ${why.get(p.code)}` : '';
      return say`${p.code}: ${names(p)}, ${r ? `landed ${r.landed} %, veil ${r.veil ?? 'not given'}` : 'no reading'}${out}`;
    },
  };
}
