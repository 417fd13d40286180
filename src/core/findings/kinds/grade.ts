import { isSpoilt, verdictOf } from '../../trial/index.ts';
import { type Kind, ridits, timesInTen } from './kind.ts';

/** Grades, as the ordered classes they are. */
export const GRADE: Kind<'grade'> = {
  id: 'grade',
  name: 'Grade',
  goal: 'more',
  response: timesInTen('the grades', 'is graded higher', 'graded higher'),
  values: (plan, records) =>
    ridits(
      new Map(
        plan.patches.flatMap(p => {
          const verdict = isSpoilt(records, p.code) ? undefined : verdictOf(records, p.code);
          return verdict ? [[p.code, verdict.grade] as const] : [];
        }),
      ),
    ),
};
