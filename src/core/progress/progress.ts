import { chainOf, type Link, onOnePiece, preparedTogether } from '../steps/index.ts';
import {
  airOf,
  type Patch,
  type PatchSettings,
  remembering,
  settingsOf,
  standing,
  type TrialPlan,
  type TrialRecord,
} from '../trial/index.ts';
import { type Air, type AirHistory, dryingFactor } from '../units/index.ts';

/** A trial: what was planned and what really happened. */
export interface Trialled {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
}

/** One patch on the bench: its settings, its chain, and how far along it is. */
export interface PatchProgress {
  readonly patch: Patch;
  readonly settings: PatchSettings;
  readonly chain: readonly Link[];
  /** When each link was done, ms; in the order of the chain, without gaps at the end. */
  readonly doneAt: readonly (number | undefined)[];
  /** When each link was begun, ms, as far as that is known. */
  readonly begunAt: readonly (number | undefined)[];
  readonly spoilt: boolean;
  /** The last answer to "is it ready?" since the last step, ms. */
  readonly asked?: { readonly at: number; readonly ready: boolean };
  /** The planned wait as it is in the air of the day, minutes, where the plan does not vary it. */
  readonly plannedMin?: number;
  /** The same in the reference air, where it follows the air. */
  readonly referenceMin?: number;
  /** Codes of the patches whose ground is prepared in the same go, its own among them. */
  readonly preparedWith: readonly string[];
  /** Codes of the patches on the same piece, its own among them. */
  readonly pieceWith: readonly string[];
  /** Patches of a piece are finished one by one: what they are finished with is compared. */
  readonly finishVaries: boolean;
}

/** A trial's records folded once, so that asking what comes next is quick. */
export interface TrialProgress {
  /** The air that was noted last. */
  readonly air: Air;
  readonly airs: AirHistory;
  readonly lines: readonly PatchProgress[];
}

/**
 * Folds a plan and its records.
 *
 * @example progressOf(plan, records).lines[0].doneAt.filter(Boolean).length; // => 1
 */
export const progressOf = (plan: TrialPlan, records: readonly TrialRecord[]): TrialProgress =>
  foldedBy(records, plan);

const foldedBy = remembering((records, plan: TrialPlan): TrialProgress => {
  const times = new Map<string, number>();
  const begun = new Map<string, number>();
  const asked = new Map<string, { at: number; ready: boolean }>();
  let shortWaitMin: number | undefined;
  const spoilt = new Set<string>();
  const kept = standing(records);
  for (const record of kept) {
    if (record.kind === 'step')
      for (const patch of [record.patch, ...(record.also ?? [])]) {
        const key = `${patch} ${record.step} ${record.round}`;
        times.set(key, Date.parse(record.at));
        // What was done for several in one go says of none how long it took.
        if (record.begun && !record.also && !record.skipped) begun.set(key, Date.parse(record.begun));
        else begun.delete(key);
      }
    if (record.kind === 'spoilt' && record.patch) spoilt.add(record.patch);
    if (record.kind === 'ready')
      asked.set(`${record.patch} ${record.step} ${record.round}`, {
        at: Date.parse(record.at),
        ready: record.ready,
      });
    if (record.kind === 'air') shortWaitMin = record.waitMin;
  }
  const air = airOf(plan, kept);
  const varied = plan.factors.some(f => f.key === 'dryHours');
  // What was planned for one air takes longer in a damper one; a wait that is compared is kept as it is.
  const moves = dryingFactor(air) / dryingFactor(plan.air);
  const planned = (minutes: number) =>
    shortWaitMin === undefined
      ? { plannedMin: minutes * moves, referenceMin: minutes / dryingFactor(plan.air) }
      : { plannedMin: shortWaitMin };
  const notes = kept.flatMap(r => (r.kind === 'air' ? [{ at: Date.parse(r.at), air: r.air }] : []));
  const forecasts = kept.flatMap(r =>
    r.kind === 'forecast' ? [{ at: Date.parse(r.at), expected: r.expected }] : [],
  );
  const goes = preparedTogether(plan);
  const pieces = onOnePiece(plan);
  const finishVaries = plan.factors.some(f => f.key === 'finish');
  const lines = plan.patches.map(patch => {
    const chain = chainOf(plan, patch);
    const doneAt = chain.map(link => times.get(`${patch.code} ${link.step.id} ${link.round}`));
    const begunAt = chain.map(link => begun.get(`${patch.code} ${link.step.id} ${link.round}`));
    const next = chain.find((_, i) => doneAt[i] === undefined);
    const answer = next && asked.get(`${patch.code} ${next.step.id} ${next.round}`);
    const settings = settingsOf(plan, patch);
    return {
      patch,
      settings,
      chain,
      doneAt,
      begunAt,
      spoilt: spoilt.has(patch.code),
      preparedWith: goes.get(patch.code) ?? [patch.code],
      pieceWith: pieces.get(patch.code) ?? [patch.code],
      finishVaries,
      ...(answer ? { asked: answer } : {}),
      ...(varied ? {} : planned(settings.dryHours * 60)),
    };
  });
  return { air, airs: { planned: plan.air, notes, ...(forecasts.length ? { forecasts } : {}) }, lines };
});
