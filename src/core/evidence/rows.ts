import { hasFailed, observations } from '../findings/index.ts';
import { waitsForDrying } from '../methods/index.ts';
import {
  airOf,
  FACTORS,
  type FactorKey,
  isSpoilt,
  levelName,
  namesOf,
  type PatchSettings,
  settingsOf,
  standing,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';
import { coatFactor, dryingFactor } from '../units/index.ts';
import { type EvidenceRow, THINGS } from './row.ts';

const isThing = (key: FactorKey): boolean => (THINGS as readonly string[]).includes(key);

/** What settings are to the evidence, whatever trial they come from. */
export function madeWith(s: PatchSettings, dryingTimes: number) {
  const used = (item: { id: string; name: string; kind?: string }) => ({
    id: item.id,
    name: item.name,
    kind: item.kind ?? '',
  });
  const needed = s.medium.dryHours * dryingTimes * coatFactor(s.coatMm);
  const dries = waitsForDrying(s.method) && needed > 0;
  return {
    used: {
      method: used(s.method),
      medium: used(s.medium),
      donor: used(s.donor),
      substrate: used(s.substrate),
      preparation: used(s.preparation),
      printer: { ...used(s.printer), kind: s.printer.colourant },
    },
    dry: dries ? Math.max(-2, Math.min(2, Math.log(Math.max(1e-3, s.dryHours) / needed))) : 0,
    coat: Math.log(Math.max(0.02, s.coatMm)),
    rounds: s.rounds,
  };
}

/**
 * What a trial adds to the evidence of a workshop: one row for each way its patches were made, controls among them.
 *
 * @example evidenceIn(plan, []); // => []
 */
export function evidenceIn(plan: TrialPlan, records: readonly TrialRecord[]): EvidenceRow[] {
  const landed = new Map(observations(plan, records, 'landed').map(o => [o.code, o.value]));
  const air = airOf(plan, records);
  const at = standing(records).at(-1)?.at ?? plan.createdAt;
  const rows = new Map<string, EvidenceRow>();
  for (const patch of plan.patches) {
    const failed = hasFailed(records, patch.code);
    const value = failed ? undefined : landed.get(patch.code);
    const verdict = isSpoilt(records, patch.code) ? undefined : verdictOf(records, patch.code);
    if (!failed && value === undefined && !verdict) continue;
    const key = patch.levels.join();
    const row = rows.get(key) ?? {
      ...{ trial: plan.id, code: plan.code, at },
      ...madeWith(settingsOf(plan, patch), dryingFactor(air)),
      varied: plan.factors.flatMap((f, i) => {
        const level = f.levels[patch.levels[i]];
        return level === undefined || isThing(f.key)
          ? []
          : [{ key: f.key, level: String(level), name: levelName(namesOf(plan), f.key, level) }];
      }),
      ...{ landed: [], failed: 0, judged: 0, kept: 0 },
    };
    rows.set(key, {
      ...row,
      landed: value === undefined ? row.landed : [...row.landed, value],
      failed: row.failed + Number(failed),
      judged: row.judged + Number(verdict !== undefined || failed),
      kept: row.kept + Number(!failed && verdict?.verdict === 'keep'),
    });
  }
  return [...rows.values()];
}

/** What a factor is called in answers. */
export const thingName = (key: string): string => FACTORS[key as FactorKey]?.name ?? key;
