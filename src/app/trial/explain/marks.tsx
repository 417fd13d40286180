import { explain } from '../../../core/diagnosis/index.ts';
import { readingOf, shortSide, verdictOf } from '../../../core/trial/index.ts';
import { inLines } from '../../board/in-lines.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { PatchWriting } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  const top = new Map(plan.patches.map(p => [p.code, explain(plan, p, records)[0]]));
  return {
    what: 'with the likeliest cause',
    legend: 'The likeliest cause of what is wrong with each patch.',
    draw: p => {
      const cause = top.get(p.code);
      const read = readingOf(records, p.code) || verdictOf(records, p.code);
      const words = cause
        ? inLines(cause.cause.name, LETTERS, LINES)
        : [read ? 'nothing wrong' : 'not read yet'];
      return <PatchWriting size={size} head={p.code} lines={words} />;
    },
    say: p => `${p.code}: ${top.get(p.code)?.cause.name ?? 'nothing to explain'}`,
  };
}

/** On a patch there is room for so many letters and lines. */
const LETTERS = 17;
const LINES = 4;
