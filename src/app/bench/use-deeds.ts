import type { RefObject } from 'react';
import {
  type AtHand,
  actionName,
  type BLANK,
  calledFor,
  type LikelyLoss,
  picked,
  pressed,
} from '../../core/advice/index.ts';
import type { Sign } from '../../core/drying/index.ts';
import { progressOf } from '../../core/progress/index.ts';
import type { Link } from '../../core/steps/index.ts';
import type { TrialRecord } from '../../core/trial/index.ts';
import { atHandIn, presentMs, type RecordDraft, setAtHand } from '../../store/index.ts';
import type { TrialView } from '../trial/view.tsx';
import { useNotice } from '../ui/notices.tsx';
import type { useNext } from '../ui/use-next.ts';
import type { useRecord } from '../ui/use-record.ts';
import { sayAloud, spelt } from './cues.ts';
import { notNow } from './not-now.ts';

/** Nothing is put aside. */
export const NOTHING: ReadonlySet<string> = new Set();

interface AtBench {
  readonly view: TrialView;
  readonly bench: ReturnType<typeof useNext>;
  readonly record: ReturnType<typeof useRecord>;
  /** What has to be seen of the coat before the action may be begun. */
  readonly sign: Sign | undefined;
  readonly screen: RefObject<typeof BLANK>;
  readonly known: AtHand | undefined;
  readonly undoable: TrialRecord | undefined;
  /** Whether this tab acts. */
  readonly mine: boolean;
  readonly speaks: boolean;
  /** What was written closes what lay open beside it. */
  readonly onKept: () => void;
  readonly putAside: (
    next: ReadonlySet<string> | ((old: ReadonlySet<string>) => ReadonlySet<string>),
  ) => void;
  /** A press came that recorded nothing. */
  readonly onPress: (at: number) => void;
}

/** That pieces were found ready for a step, or not. */
const foundReady = ({ patches }: Sign, { step, round }: Link, ready: boolean): RecordDraft[] =>
  patches.map(patch => ({ kind: 'ready', patch, ready, step: step.id, round }));

/** What can be done at the bench: keep what happened, press, take back, put aside, choose another, give up. */
export function useDeeds({
  view,
  bench,
  record,
  sign,
  screen,
  known,
  undoable,
  mine,
  speaks,
  onKept,
  putAside,
  onPress,
}: AtBench) {
  const { plan, records, workshop } = view;
  const { action } = bench;
  const tell = useNotice();
  const keep = async (
    drafts: readonly RecordDraft[],
    files?: ReadonlyMap<string, Blob>,
    then?: AtHand,
  ): Promise<boolean> => {
    if (!mine || !(await record.add(drafts, files))) return false;
    screen.current = calledFor(screen.current);
    onKept();
    // A photo or a note beside the work leaves the hands at what they are at.
    if (drafts.some(d => d.kind === 'step' || d.kind === 'spoilt' || d.kind === 'undo')) {
      putAside(NOTHING);
      setAtHand(workshop, then);
    }
    return true;
  };
  const done = async () => {
    const at = presentMs();
    // Until all trials are known another may come first.
    if (record.busy || !bench.here || action.kind === 'finished') return;
    const before = screen.current;
    const since = bench.isAtHand ? atHandIn(workshop)?.since : undefined;
    const { screen: after, draft } = pressed(before, bench, at, since);
    screen.current = after;
    if (!draft) return onPress(at);
    const kept = await keep(sign && action.kind === 'do' ? foundReady(sign, action.link, true) : [draft]);
    // What is not written was not pressed.
    if (!kept) screen.current = before;
    if (kept && sign) return;
    if (kept && speaks) sayAloud(`${action.link.step.done}, ${spelt(action.patch.code)}`);
  };
  const notYet = async () => {
    if (!sign || action.kind !== 'do' || !(await keep(foundReady(sign, action.link, false)))) return;
    // Hands go to something else while it dries on.
    setAtHand(workshop, undefined);
    tell({ say: 'Kept: it gets a quarter longer than it had.' });
  };
  const undo = async () => {
    if (!undoable) return;
    const { patch } = undoable;
    // What was taken back is what the hands are at again.
    const again =
      undoable.kind === 'step' && patch
        ? { trial: plan.id, patch, step: undoable.step, round: undoable.round, since: presentMs() }
        : undefined;
    await keep([{ kind: 'undo', patch, of: undoable.id }], undefined, again);
  };
  const later = () => {
    if (action.kind === 'finished' || !bench.trial) return;
    screen.current = calledFor(screen.current);
    setAtHand(workshop, undefined);
    putAside(old => new Set([...old, actionName(bench)]));
  };
  const choose = (patch: string, step: string, round: number) => {
    screen.current = calledFor(screen.current);
    setAtHand(workshop, { trial: plan.id, patch, step, round, since: presentMs() });
  };
  const giveUp = ({ patch }: LikelyLoss) =>
    void keep(
      [{ kind: 'spoilt', patch, why: 'Given up: it would have missed its window', slip: true }],
      undefined,
      known,
    );
  const pick = (code: string) => {
    if (action.kind === 'do' && code === action.patch.code) return;
    const found = picked(progressOf(plan, records), code, presentMs());
    if (found.kind === 'now') return choose(code, found.link.step.id, found.link.round);
    tell({ say: notNow(code, found, presentMs()) });
  };
  return { keep, done, notYet, undo, later, choose, giveUp, pick };
}
