import { coatMl } from '../design/index.ts';
import { type Findings, findingsOf } from '../findings/index.ts';
import { CAUTIONS, mirrors, type Step } from '../methods/index.ts';
import { waitsOf } from '../progress/index.ts';
import { itemsIn, type KeptRecipe } from '../recipe-book/index.ts';
import {
  celsius,
  humidity,
  minutes,
  mL,
  mm,
  named,
  percent,
  say,
  span,
  thick,
  veil,
  type Words,
  within,
} from '../say/index.ts';
import { cautionsAt, openMinutes, stepsFor } from '../steps/index.ts';
import {
  airOf,
  factorName,
  levelName,
  namesOf,
  type PatchSettings,
  settingsOf,
  sizeOf,
  standing,
  type TrialPlan,
  type TrialRecord,
  verdictOf,
} from '../trial/index.ts';
import { dryingFactor } from '../units/index.ts';

/** A method with every choice and window fixed, and the evidence behind it. */
export interface Recipe {
  readonly title: string;
  readonly choices: readonly { readonly what: string; readonly choice: Words }[];
  readonly steps: readonly {
    readonly action: string;
    readonly instruction: Words;
    readonly window?: Words;
    readonly cautions: readonly string[];
  }[];
  readonly evidence: readonly Words[];
}

/**
 * The leading combination of a trial as a recipe, or one that was chosen instead; nothing while there are no findings.
 *
 * @example recipeOf(plan, []); // => undefined
 */
export function recipeOf(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  chosen?: readonly number[],
): Recipe | undefined {
  const found = findingsOf(plan, records);
  if (!found.leading) return undefined;
  const leading = chosen ? asChosen(plan, found, chosen) : found.leading;
  const planned = settingsOf(plan, { levels: [...leading.levels] });
  const waited = waitedBy(plan, records, leading.patches, planned);
  const s = { ...planned, dryHours: waited.hours };
  const air = airOf(plan, records);
  const open = openMinutes(s, air);
  const size = sizeOf(plan);
  const { method } = planned;
  const steps = stepsFor(plan, s)
    .filter(step => step.does !== 'mark')
    .map(step => ({
      action: `${step.action}${severalTimes(step, s)}`,
      instruction: step.instruction,
      window: windowOf(step.wait, s, open, dryingFactor(air)),
      cautions: cautionsAt(step, s).map(id => `${CAUTIONS[id].title}: ${CAUTIONS[id].text}`),
    }));
  const pct = (v: number) => percent(v, { places: 0 });
  return {
    title: `${method.name} on ${within(s.substrate.name)}`,
    choices: [
      { what: 'Printer', choice: s.printer.name },
      {
        what: 'Donor sheet',
        choice: say`${named(s.donor.name, 'material')}, ${mirrors(method, s.donor.kind) ? 'printed mirrored' : 'not mirrored'}`,
      },
      {
        what: 'Medium',
        choice: say`${named(s.medium.name, 'material')}${batchWords(s.medium)}, ${thick(s.coatMm)} thick (${mL(coatMl(size, s.coatMm), { places: 1 })} for ${mm(size.w, { by: size.h })})`,
      },
      { what: 'Substrate', choice: s.substrate.name },
      { what: 'Preparation', choice: s.preparation.name },
      {
        what: method.waitName,
        choice: say`${waited.words} at ${celsius(air.tempC)} and ${humidity(air.rh)} humidity`,
      },
      ...(method.steps.some(step => step.eachRound && step.does === 'rub')
        ? [{ what: 'Rubbing rounds', choice: String(s.rounds) }]
        : []),
      ...(['coatWhere', 'removal', 'water', 'trim'] as const).flatMap(key =>
        s[key] ? [{ what: factorName(key, method), choice: levelName(namesOf(plan), key, s[key]) }] : [],
      ),
      ...(s.pressing ? [{ what: 'Pressed with', choice: s.pressing.name }] : []),
      ...(s.rubTool ? [{ what: 'Rubbed with', choice: s.rubTool.name }] : []),
      ...(s.finish ? [{ what: 'Finish', choice: s.finish.name }] : []),
    ],
    steps,
    evidence: [
      leading.sentence,
      ...(leading.landed
        ? [
            say`Expected landed ${pct(leading.landed.value)} (90 % interval ${pct(leading.landed.lo)} to ${pct(leading.landed.hi)}).`,
          ]
        : []),
      ...(leading.veil
        ? [
            say`Expected veil ${veil(leading.veil.value)} (${veil(leading.veil.lo)} to ${veil(leading.veil.hi)}).`,
          ]
        : []),
      `From patches ${leading.patches.join(', ')} of trial ${plan.code}, ${standing(records).filter(r => r.kind === 'reading').length} readings in all.`,
    ],
  };
}

/**
 * The recipe of a trial as it can be kept; nothing while there are no findings.
 *
 * @param chosen a combination that was chosen instead of the leading one.
 */
export function keptFrom(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  chosen?: readonly number[],
): KeptRecipe | undefined {
  const card = recipeOf(plan, records, chosen);
  const levels = chosen ?? findingsOf(plan, records).leading?.levels;
  if (!card || !levels) return undefined;
  const patches = plan.patches.filter(p => p.levels.join() === levels.join()).map(p => p.code);
  const planned = settingsOf(plan, { levels: [...levels] });
  const s = { ...planned, dryHours: waitedBy(plan, records, patches, planned).hours };
  const verdicts = patches.flatMap(code => verdictOf(records, code) ?? []);
  const { coatMm, dryHours, rounds, copyAgeH, coatWhere, water, removal, trim } = s;
  return {
    name: card.title,
    card: {
      ...card,
      steps: card.steps.map(step => ({ ...step, cautions: [...step.cautions] })),
    } as KeptRecipe['card'],
    method: s.method,
    items: itemsIn(s),
    numbers: { coatMm, dryHours, rounds, copyAgeH },
    options: { coatWhere, water, removal, trim },
    air: airOf(plan, records),
    from: { trial: plan.id, name: plan.name, patches },
    seen: { good: verdicts.filter(x => x.verdict === 'keep').length, of: verdicts.length },
  };
}

/** A combination that the maker chose instead of the likeliest one, with what is known of it. */
function asChosen(plan: TrialPlan, { tradeOffs }: Findings, levels: readonly number[]) {
  const found = tradeOffs.find(t => t.levels.join() === levels.join());
  return {
    levels,
    landed: found?.landed,
    veil: found?.veil,
    patches: plan.patches.filter(p => p.levels.join() === levels.join()).map(p => p.code),
    sentence: found
      ? say`You chose ${found.name}, for what it gives and what it takes.`
      : 'You chose this one; nothing of it was measured.',
  };
}

/**
 * How long the patches of a recipe really waited, in the middle of them: that is what it is good for. What was only
 * planned is said as that.
 */
function waitedBy(
  plan: TrialPlan,
  records: readonly TrialRecord[],
  patches: readonly string[],
  planned: PatchSettings,
) {
  const waits = waitsOf(plan, records)
    .filter(w => patches.includes(w.patch))
    .map(w => w.waitedMin)
    .sort((a, b) => a - b);
  const name = levelName(namesOf(plan), 'dryHours', planned.dryHours);
  if (!waits.length)
    return {
      hours: planned.dryHours,
      words: say`${name}, as planned: what was really waited was not recorded,`,
    };
  const hours = waits[waits.length >> 1] / 60;
  const isAsPlanned = Math.abs(hours / planned.dryHours - 1) <= 0.1;
  if (isAsPlanned) return { hours: planned.dryHours, words: name };
  const [least, most] = [waits[0], waits.at(-1)!];
  const range = span(least) === span(most) ? minutes(hours * 60) : minutes(least, { to: most });
  return { hours, words: say`${range}, as it was really waited (${name} was planned),` };
}

/** ` (batch 12, opened on 2026-03-01)`, as far as the jar's batch and day are known. */
function batchWords({ batch, opened }: PatchSettings['medium']): string {
  const words = [...(batch ? [`batch ${batch}`] : []), ...(opened ? [`opened on ${opened}`] : [])];
  return words.length ? ` (${words.join(', ')})` : '';
}

/** `(in each of 3 rounds)`, `(4 coats)`, or nothing. */
function severalTimes(step: Step, s: PatchSettings): string {
  if (step.eachRound) return s.rounds > 1 ? ` (in each of ${s.rounds} rounds)` : '';
  const coats = s.finish?.coats ?? 1;
  return step.onlyIfFinished && coats > 1 ? ` (${coats} coats)` : '';
}

type Wait = Step['wait'];

function windowOf(
  wait: Wait,
  s: ReturnType<typeof settingsOf>,
  open: number,
  factor: number,
): Words | undefined {
  switch (wait.kind) {
    case 'none':
      return undefined;
    case 'fixed':
      return say`then ${minutes(wait.aim)} (not before ${minutes(wait.min)}, not after ${minutes(wait.max)})`;
    case 'open-time':
      return say`then place within ${minutes(open)}, while it is wet and shining`;
    case 'planned':
      return say`then leave it ${minutes(s.dryHours * 60)} in air like this (${minutes(s.dryHours * 60 * wait.lo, { to: s.dryHours * 60 * wait.hi })})`;
    case 'finish':
      return s.finish?.waitHours
        ? say`then let it dry about ${minutes(s.finish.waitHours * 60 * factor)}`
        : undefined;
    case 'preparation':
      return s.preparation.waitHours
        ? say`then let it dry about ${minutes(s.preparation.waitHours * 60 * factor)}`
        : undefined;
  }
}
