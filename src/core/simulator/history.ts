import type { Does } from '../methods/index.ts';
import { type PatchProgress, progressOf, type Trialled } from '../progress/index.ts';
import { seedOf } from '../random/index.ts';
import { airOf, settingsOf, sizeOf, type WearTest } from '../trial/index.ts';
import type { PatchHistory } from './process.ts';

/** How things go while nothing was recorded: with the usual care, or in a hurry. */
export interface Hands {
  readonly isHurried?: boolean;
  /** Another of the pieces that could come of the same work. */
  readonly draw?: number;
}

const HOUR = 3_600_000;
/** How long after coating a print is placed where nobody recorded it, minutes. */
const USUAL_PLACING_MIN = 1.2;
const HURRIED_WAIT = 0.7;

/**
 * What was done to a patch, for the simulated camera: what was recorded, and the plan's own times where nothing was.
 * `round`: after which round it is looked at; `at`: when (ms), for what clears with the days.
 *
 * @example historyOf({ plan, records }, patch.code, { round: 2 }).rounds; // => 2
 */
export function historyOf(
  { plan, records }: Trialled,
  code: string,
  {
    round,
    at,
    worn,
    hands = {},
  }: {
    readonly round: number;
    readonly at?: number;
    readonly worn?: readonly WearTest[];
    readonly hands?: Hands;
  },
): PatchHistory {
  const line = progressOf(plan, records).lines.find(l => l.patch.code === code)!;
  const settings = settingsOf(plan, line.patch);
  const { w, h } = sizeOf(plan);
  const done = (does: Does) => line.doneAt[line.chain.findIndex(l => l.step.does === does)];
  const [coat, place] = [done('coat'), done('place') ?? done('offset')];
  const last = line.doneAt.findLast(t => t !== undefined);
  return {
    settings,
    air: airOf(plan, records),
    placedAfterMin:
      coat !== undefined && place !== undefined && place > coat
        ? (place - coat) / 60_000
        : USUAL_PLACING_MIN * (hands.isHurried ? 2.5 : 1),
    driedHours: plannedWait(line) ?? settings.dryHours * (hands.isHurried ? HURRIED_WAIT : 1),
    rounds: round,
    patchMm: w,
    ...(h === w ? {} : { patchTallMm: h }),
    seed: seedOf(`${plan.id}${code}${hands.draw ?? ''}`),
    ...(hands.isHurried ? { isHurried: true } : {}),
    ...(worn?.length ? { worn } : {}),
    ...(at !== undefined && last !== undefined ? { days: Math.max(0, (at - last) / (24 * HOUR)) } : {}),
  };
}

/** The wait that can be planned as it really was, hours; nothing where it is not over. */
function plannedWait({ chain, doneAt }: PatchProgress): number | undefined {
  const i = chain.findIndex(l => l.step.wait.kind === 'planned');
  const [from, to] = [doneAt[i], doneAt[i + 1]];
  return i < 0 || from === undefined || to === undefined ? undefined : (to - from) / HOUR;
}
