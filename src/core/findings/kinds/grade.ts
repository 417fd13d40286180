import { isSpoilt, verdictOf } from '../../trial/index.ts';
import { type Kind, timesInTen } from './kind.ts';

/**
 * Grades, as the ordered classes they are: how often a patch is graded higher than one of this trial taken at random,
 * half of the ties counted (ridits relative to an identified distribution: Bross 1958, Biometrics 14:18).
 */
export const GRADE: Kind<'grade'> = {
  id: 'grade',
  name: 'Grade',
  better: 'more',
  response: timesInTen('the grades', 'is graded higher', 'graded higher'),
  values: (plan, records) => {
    const grades = plan.patches.flatMap(p => {
      const verdict = isSpoilt(records, p.code) ? undefined : verdictOf(records, p.code);
      return verdict ? [{ code: p.code, grade: verdict.grade }] : [];
    });
    const share = (grade: number) =>
      grades.reduce((sum, g) => sum + (g.grade < grade ? 1 : g.grade === grade ? 0.5 : 0), 0) / grades.length;
    return new Map(grades.map(g => [g.code, 10 * share(g.grade)]));
  },
};
