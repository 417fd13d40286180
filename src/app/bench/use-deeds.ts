import type { RefObject } from 'react';
import {
  type AtHand,
  actionName,
  type BLANK,
  calledFor,
  type LikelyLoss,
  picked,
} from '../../core/advice/index.ts';
import type { Sign } from '../../core/drying/index.ts';
import { progressOf } from '../../core/progress/index.ts';
import type { TrialRecord } from '../../core/trial/index.ts';
import { atHandIn, presentMs, type RecordDraft, setAtHand } from '../../store/index.ts';
import type { TrialView } from '../trial/view.tsx';
import { useNotice } from '../ui/notices.tsx';
import type { useNext } from '../workshop/use-next.ts';
import type { useRecord } from '../workshop/use-record.ts';
import { foundReady, freesHands, givenUp, pressControl, undone } from './bench.model.ts';
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
    if (freesHands(drafts)) {
      putAside(NOTHING);
      setAtHand(workshop, then);
    }
    return true;
  };
  const done = async () => {
    const at = presentMs();
    // Until all trials are known another may come first.
    if (record.busy || !bench.here || action.kind === 'finished') return;
    const since = bench.isAtHand ? atHandIn(workshop)?.since : undefined;
    const came = await pressControl(screen, bench, { now: at, since, sign }, keep);
    if (came === 'nothing') onPress(at);
    if (came === 'done' && speaks) sayAloud(`${action.link.step.done}, ${spelt(action.patch.code)}`);
  };
  const notYet = async () => {
    if (!sign || action.kind !== 'do' || !(await keep(foundReady(sign, action.link, false)))) return;
    // Hands go to something else while it dries on.
    setAtHand(workshop, undefined);
    tell({ say: 'Kept: it gets a quarter longer than it had.' });
  };
  const undo = async () => {
    if (!undoable) return;
    const { draft, again } = undone(undoable, plan.id, presentMs());
    await keep([draft], undefined, again);
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
  const giveUp = ({ patch }: LikelyLoss) => void keep([givenUp(patch)], undefined, known);
  const pick = (code: string) => {
    if (action.kind === 'do' && code === action.patch.code) return;
    const found = picked(progressOf(plan, records), code, presentMs());
    if (found.kind === 'now') return choose(code, found.link.step.id, found.link.round);
    tell({ say: notNow(code, found, presentMs()) });
  };
  return { keep, done, notYet, undo, later, choose, giveUp, pick };
}
