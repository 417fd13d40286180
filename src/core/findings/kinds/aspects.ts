import { ASPECTS } from '../../aspects/index.ts';
import { within } from '../../say/index.ts';
import { aspectsOf, isSpoilt } from '../../trial/index.ts';
import { type Kind, ridits, timesInTen } from './kind.ts';

/** Each aspect that was graded by itself, as the ordered classes they are. */
export const GRADED: readonly Kind[] = ASPECTS.map(({ id, name }) => ({
  id,
  name,
  goal: 'more' as const,
  response: timesInTen(
    `the grades of ${within(name)}`,
    `is graded higher for ${within(name)}`,
    `graded higher for ${within(name)}`,
  ),
  values: (plan, records) =>
    ridits(
      new Map(
        plan.patches.flatMap(p => {
          const grade = isSpoilt(records, p.code) ? undefined : aspectsOf(records, p.code)[id];
          return grade ? [[p.code, grade] as const] : [];
        }),
      ),
    ),
}));
