import type { FactorKey } from '../factors/index.ts';
import { type Facts, factsOf, type RuleContext } from './facts.ts';
import { RULES, type Rule, type Test } from './rules.ts';

export { dryShare, type FactName, type Facts, factsOf, hoursToDry, type RuleContext } from './facts.ts';
export { RULES, type Rule, type Test } from './rules.ts';

/** Whether a condition holds for these facts. */
export function holds(test: Test, facts: Facts): boolean {
  if ('all' in test) return test.all.every(t => holds(t, facts));
  if ('any' in test) return test.any.some(t => holds(t, facts));
  if ('not' in test) return !holds(test.not, facts);
  const value = facts[test.fact];
  if ('is' in test) return test.is.includes(value as string | boolean);
  if ('atLeast' in test) return Number(value) >= test.atLeast;
  return Number(value) < test.below;
}

/**
 * The rules that speak up about one patch, gravest first.
 *
 * @example rulesFor({ settings, method: methods[0], air, patchMm: 40, wear: [] }).every(rule => rule.severity !== 'stop'); // => true
 */
export function rulesFor(context: RuleContext, rules: readonly Rule[] = RULES): Rule[] {
  const facts = factsOf(context);
  return rules.filter(rule => holds(rule.when, facts));
}

/**
 * Whether the maker may go against a rule: never where a person or a machine would be harmed.
 *
 * @example canOverride({ harms: 'person' }); // => false
 */
export const canOverride = (rule: Rule): boolean => rule.severity === 'stop' && !rule.harms;

/**
 * The stops that stand for one patch after the maker's overrides.
 *
 * @example stopsFor({ settings, method: methods[0], air, patchMm: 40, wear: [] }, []); // => []
 */
export const stopsFor = (context: RuleContext, overrides: readonly string[]): Rule[] =>
  rulesFor(context).filter(
    rule => rule.severity === 'stop' && !(canOverride(rule) && overrides.includes(rule.id)),
  );

/**
 * Rules about one choice, for showing where it is made.
 *
 * @example rulesAbout('trim', { settings, method: methods[0], air, patchMm: 40, wear: [] }); // => []
 */
export const rulesAbout = (key: FactorKey, context: RuleContext): Rule[] =>
  rulesFor(context).filter(rule => rule.about.includes(key));
