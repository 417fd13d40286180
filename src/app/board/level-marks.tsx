import { joined, say } from '../../core/say/index.ts';
import {
  FACTOR_LETTERS,
  levelMarks,
  levelName,
  levelsLine,
  namesOf,
  type Patch,
  shortSide,
  type TrialPlan,
} from '../../core/trial/index.ts';
import { type BoardMarks, PatchWriting } from './marks.tsx';

/** Every patch with its levels, its number and its repeat. */
export function levelMarksOn(plan: TrialPlan): BoardMarks {
  const size = shortSide(plan);
  const names = (p: Patch) => levelsLine(plan, p);
  const levels = (i: number) =>
    plan.factors[i].levels.map(
      (level, l) => say`${FACTOR_LETTERS[i]}${l + 1} ${levelName(namesOf(plan), plan.factors[i].key, level)}`,
    );
  const legend = joined(
    plan.factors.map((_, i) => say`${FACTOR_LETTERS[i]}: ${joined(levels(i), ', ')}`),
    ' · ',
  );
  return {
    what: 'with the levels of every patch',
    legend,
    draw: p => (
      <PatchWriting
        size={size}
        head={p.code}
        strong={levelMarks(plan, p).join(' ')}
        lines={[`no. ${p.order + 1} · repeat ${p.repeat + 1}`]}
      />
    ),
    say: p => say`${p.code}: ${names(p)}, number ${p.order + 1} in the order of work`,
  };
}
