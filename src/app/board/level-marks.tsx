import {
  FACTOR_LETTERS,
  levelMarks,
  levelName,
  levelNames,
  namesOf,
  type Patch,
  shortSide,
  type TrialPlan,
} from '../../core/trial/index.ts';
import { type BoardMarks, PatchWriting } from './marks.tsx';

/** Every patch with its levels, its number and its repeat. */
export function levelMarksOn(plan: TrialPlan): BoardMarks {
  const size = shortSide(plan);
  const names = (p: Patch) => levelNames(plan, p).join(', ');
  const legend = plan.factors
    .map(
      (factor, i) =>
        `${FACTOR_LETTERS[i]}: ${factor.levels
          .map((level, l) => `${FACTOR_LETTERS[i]}${l + 1} ${levelName(namesOf(plan), factor.key, level)}`)
          .join(', ')}`,
    )
    .join(' · ');
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
    say: p => `${p.code}: ${names(p)}, number ${p.order + 1} in the order of work`,
  };
}
