import { contextOf, type PlanRequest } from '../../core/design/index.ts';
import { FACTORS, type FactorKey, ofAnyMethod, type SettingKey } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { type Rule, rulesAbout } from '../../core/rules/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { isVariedIn } from '../../core/trial/index.ts';

type Chosen = Record<SettingKey, string | number>;

/** What rules say about choosing `value` for `key`, everything else as it is now. */
export type Speak = (key: FactorKey, value: string | number) => readonly Rule[];

/**
 * Rules for every choice. Where another factor is varied, a rule is shown at this one only if it holds whatever that
 * other's level: "too early" stands at the short time, not at every medium it is tried with; there it stands as soon as
 * it holds for one of them.
 */
export function speakOf(
  { factors: all, air, wear, patchMm, patchTallMm }: PlanRequest,
  usual: PlanRequest['usual'],
  method: Method,
  shelf: Shelf,
): Speak {
  const factors = all.filter(f => !ofAnyMethod(f.key) && isVariedIn(f, method));
  const first: Chosen = { ...usual };
  for (const factor of factors) first[factor.key as SettingKey] = factor.levels[0];
  const rulesOf = (key: FactorKey, chosen: Chosen) => {
    const asked = {
      usual: chosen as PlanRequest['usual'],
      factors: [],
      air,
      wear,
      patchMm,
      patchTallMm,
      overrides: [],
      seed: 0,
    };
    return rulesAbout(key, contextOf(asked, { ...shelf, method }, []));
  };
  /** What is first of all about a number is said at it, with whatever else it is tried: a wait too short for one medium. */
  const anywhere = (key: FactorKey, value: string | number): readonly Rule[] => {
    const others = factors.filter(f => f.key !== key);
    const found = others.flatMap(other =>
      other.levels.flatMap(level => rulesOf(key, { ...first, [key]: value, [other.key]: level })),
    );
    return [...new Set(found)].filter(r => r.about[0] === key);
  };
  const cache = new Map<string, readonly Rule[]>();
  return (key, value) => {
    const at = `${key} ${value}`;
    const known = cache.get(at);
    if (known) return known;
    let rules: readonly Rule[] = [];
    try {
      const base = { ...first, [key]: value };
      rules = rulesOf(key, base);
      const own = FACTORS[key].levels === 'numbers' ? anywhere(key, value) : [];
      for (const other of factors)
        for (const level of other.key === key ? [] : other.levels) {
          if (!rules.length) break;
          const still = rulesOf(key, { ...base, [other.key]: level });
          rules = rules.filter(r => still.includes(r));
        }
      rules = [...rules, ...own.filter(r => !rules.includes(r))];
    } catch {
      // Something that is chosen is not on the shelf any more; the plan itself says so.
    }
    cache.set(at, rules);
    return rules;
  };
}
