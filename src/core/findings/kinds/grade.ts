import { isSpoilt, verdictOf } from '../../trial/index.ts';
import type { Kind } from './kind.ts';

/**
 * Grades, as the ordered classes they are: how often a patch is graded higher than one of this trial taken at random,
 * half of the ties counted (ridits relative to an identified distribution: Bross 1958, Biometrics 14:18).
 */
export const GRADE: Kind<'grade'> = {
  id: 'grade',
  name: 'Grade',
  better: 'more',
  response: {
    noun: 'the grades',
    more: 'is graded higher',
    heading: 'graded higher than a patch taken at random, times in 10',
    difference: value => `${value.toFixed(1)} times in 10`,
    scale: { most: 10 },
    bounds: [0, 10],
    digits: 1,
    figures: 1,
  },
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
