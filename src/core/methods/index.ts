import * as v from 'valibot';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { CARBON_TRACE, FILM_PULL, GEL_PLATE, GEL_SKIN, SOLVENT_BLOOM, TISSUE_EMBED } from './films.ts';
import { BACKING_PRINT, HOT_BODY, IRONED_TAPE, QUICK_RELEASE, WAX_BED } from './heated.ts';
import { withMirror } from './mirror.ts';
import { DISSOLVING, PAINT_BED, TAPE_LIFT, THICK_COAT, WET_RUB } from './rubbed.ts';
import { Method, Step, type StepInput } from './schema.ts';
import { asNow } from './upgrade.ts';

export { CAUTIONS, type Caution, FOLLOW_LABEL } from './cautions.ts';
export { DEEDS, DOES, type Does, deedOf } from './deeds.ts';
export { mirrorReason, mirrors, turns, withMirror } from './mirror.ts';
export { type CautionId, Method, REMOVALS, Step, TRAITS, Wait } from './schema.ts';
export { asNow } from './upgrade.ts';

/** The methods that come with Wet Test, in the order of the handbook. */
export const METHODS: readonly Method[] = [
  WET_RUB,
  THICK_COAT,
  PAINT_BED,
  WAX_BED,
  TAPE_LIFT,
  IRONED_TAPE,
  BACKING_PRINT,
  FILM_PULL,
  SOLVENT_BLOOM,
  HOT_BODY,
  GEL_SKIN,
  TISSUE_EMBED,
  QUICK_RELEASE,
  DISSOLVING,
  GEL_PLATE,
  CARBON_TRACE,
].map(method => v.parse(Method, withMirror(method)));

/**
 * A step with what it does not say as it usually is.
 *
 * @example newStep({ ...methods[0].steps[0], eachRound: undefined }).eachRound; // => false
 */
export const newStep = (part: StepInput): Step => v.parse(Step, part);

/**
 * The method with this id among those that come with Wet Test and `own`; nothing when there is none.
 *
 * @example findMethod('wet-rub').name; // => 'Wet-rub transfer'
 */
export const findMethod = (id: string, own: readonly Method[] = []): Method | undefined =>
  [...own, ...METHODS].find(m => m.id === id);

/**
 * Whether the planned wait is the drying of a wet coat in the room's air, without heat.
 *
 * @example waitsForDrying(methods[0]); // => true
 */
export const waitsForDrying = (method: Method): boolean =>
  method.steps.some(
    ({ wait }) =>
      wait.kind === 'planned' &&
      (wait.dries ?? (method.usesWater && !method.usesHeat && method.removal !== 'soak')),
  );

/**
 * A copy of a method that can be changed, under a name and an id of its own.
 *
 * @example copyMethod(methods[0], []).id; // => 'wet-rub-own-1'
 */
export function copyMethod(method: Method, taken: readonly string[]): Method {
  let n = 1;
  const root = (method.copiedFrom ?? method.id).slice(0, 34);
  while (taken.includes(`${root}-own-${n}`)) n++;
  return {
    ...structuredClone(method),
    id: `${root}-own-${n}`,
    name: `${method.name}, your way${n > 1 ? ` ${n}` : ''}`.slice(0, 80),
    copiedFrom: method.copiedFrom ?? method.id,
  };
}

/**
 * A changed method checked whole; the sentence says which step is wrong and how.
 *
 * @example checkMethod(methods[0]).ok; // => true
 */
export function checkMethod(data: unknown): Outcome<Method> {
  const parsed = v.safeParse(Method, asNow(data));
  if (!parsed.success) {
    const issue = parsed.issues[0];
    const path = issue.path?.map(p => p.key) ?? [];
    const step = path[0] === 'steps' && typeof path[1] === 'number' ? `Step ${path[1] + 1}: ` : '';
    return bad('bad-method', `${step}${issue.message}`);
  }
  const method = withMirror(parsed.output);
  const ids = method.steps.map(s => s.id);
  if (new Set(ids).size !== ids.length) return bad('bad-method', 'Two steps have the same id.');
  if (method.steps[0].does !== 'mark')
    return bad(
      'bad-method',
      'The first step has to be marking.',
      'Unmarked patches cannot be told apart later.',
    );
  if (!method.steps.some(s => s.wait.kind === 'planned') && method.vary.includes('dryHours'))
    return bad(
      'bad-method',
      `${method.waitName} can be varied, but no step waits for it.`,
      'Give one step the planned wait.',
    );
  return good(method);
}
