import { explain } from '../../../core/diagnosis/index.ts';
import { readingOf, shortSide, verdictOf } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { PatchWriting } from '../../board/marks.tsx';
import type { Stage } from '../stage.ts';
import type { TrialView } from '../view.tsx';

function marks(view: TrialView): BoardMarks {
  const { plan, records } = view;
  const size = shortSide(plan);
  const top = new Map(plan.patches.map(p => [p.code, explain(plan, p, records)[0]]));
  return {
    what: 'with the likeliest cause',
    legend: 'The likeliest cause of what is wrong with each patch.',
    draw: p => {
      const cause = top.get(p.code);
      const read = readingOf(records, p.code) || verdictOf(records, p.code);
      const words = cause ? wrap(cause.cause.name) : [read ? 'nothing wrong' : 'not read yet'];
      return <PatchWriting size={size} head={p.code} lines={words} />;
    },
    say: p => `${p.code}: ${top.get(p.code)?.cause.name ?? 'nothing to explain'}`,
  };
}

/** Splits words into lines of at most 19 letters, at most four. */
function wrap(text: string): string[] {
  const lines: string[] = [''];
  for (const word of text.split(' ')) {
    if (`${lines.at(-1)} ${word}`.trim().length > 17) lines.push(word);
    else lines[lines.length - 1] = `${lines.at(-1)} ${word}`.trim();
  }
  return lines.slice(0, 4);
}

/** Stage “Explain”. */
export const STAGE: Stage = {
  id: 'explain',
  place: 6,
  label: 'Explain',
  load: async () => (await import('./explain-stage.tsx')).ExplainStage,
  marks,
};
