import { Box, Button, Flex, Text } from '@chakra-ui/react';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { progressOf } from '../../core/progress/index.ts';
import { dueElsewhere } from '../../core/schedule/index.ts';
import { lastUndoable, standing, type TrialRecord, undoWords } from '../../core/trial/index.ts';
import { presentMs, type RecordDraft, useUnderWay } from '../../store/index.ts';
import { type TrialView, WithTrial } from '../trial/view.tsx';
import { useSettings } from '../ui/settings.tsx';
import { useNow } from '../ui/time.ts';
import { useRecord } from '../ui/use-record.ts';
import { useWorking } from '../ui/use-working.ts';
import { whatNext } from '../ui/what-next.ts';
import { Aside, type AsideName } from './asides.tsx';
import { Banners } from './banners.tsx';
import { Controls } from './controls.tsx';
import { useCues, useWakeLock } from './cues.ts';
import { Instruction } from './instruction.tsx';
import { SetUp } from './set-up.tsx';
import { Switches } from './switches.tsx';
import { useTurn } from './use-turn.ts';

const HALF_DAY = 12 * 3_600_000;

/** The bench: one instruction, one clock, one control. Set-up comes first, and again after half a day away. */
export function BenchView() {
  return <WithTrial>{view => <Bench view={view} />}</WithTrial>;
}

function Bench({ view }: { view: TrialView }) {
  const { plan, records, workshop } = view;
  const kept = standing(records);
  const lastHere = kept.findLast(r => r.kind === 'air' || r.kind === 'step');
  const fresh =
    kept.some(r => r.kind === 'air') && lastHere && presentMs() - Date.parse(lastHere.at) < HALF_DAY;
  const navigate = useNavigate();
  const leave = useCallback(
    () => void navigate(`/w/${workshop}/t/${plan.id}/make`),
    [navigate, workshop, plan.id],
  );
  useWakeLock();
  useEffect(() => {
    window.scrollTo(0, 0);
  }, []);
  useEffect(() => {
    const listen = (e: KeyboardEvent) => e.key === 'Escape' && leave();
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [leave]);
  const [again, setAgain] = useState(false);
  const noted = kept.filter(r => r.kind === 'air').length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: set-up ends when the air was noted
  useEffect(() => setAgain(false), [noted]);
  return fresh && !again ? (
    <AtWork view={view} leave={leave} setUp={() => setAgain(true)} />
  ) : (
    <SetUp view={view} leave={leave} />
  );
}

function AtWork({ view, leave, setUp }: { view: TrialView; leave: () => void; setUp: () => void }) {
  const { plan, records, workshop } = view;
  const now = useNow(250);
  const { settings, change } = useSettings();
  const record = useRecord(workshop, plan.id);
  const turn = useTurn(`${workshop} ${plan.id}`);
  const { problem, ...bench } = whatNext(workshop, { plan, records }, useWorking(workshop), now);
  const { trials } = useUnderWay(workshop);
  const { action, also } = bench;
  const undoable = lastUndoable(records);
  const [early, setEarly] = useState(false);
  const [aside, setAside] = useState<AsideName>();
  useCues(action, now, settings);

  const keep = useCallback(
    async (drafts: readonly RecordDraft[], files?: ReadonlyMap<string, Blob>) => {
      if (!turn.mine) return;
      if (!(await record.add(drafts, files))) return;
      setAside(undefined);
      setEarly(false);
    },
    [record, turn.mine],
  );
  const done = useCallback(() => {
    if (record.busy || action.kind === 'finished') return;
    const { window } = action.status;
    const soon = window ? presentMs() < window.opens : action.kind === 'wait';
    // A step that must not come yet needs a second press, so that an elbow cannot start it.
    if (soon && !early) return setEarly(true);
    void keep([
      {
        kind: 'step',
        patch: action.patch.code,
        step: action.link.step.id,
        round: action.link.round,
        ...(also.length ? { also: [...also] } : {}),
      },
    ]);
  }, [action, also, record.busy, early, keep]);
  const undo = useCallback(() => {
    if (undoable) void keep([{ kind: 'undo', patch: undoable.patch, of: undoable.id }]);
  }, [undoable, keep]);
  const open = (name: AsideName) => setAside(aside === name ? undefined : name);
  useBenchKeys({
    ' ': done,
    Enter: done,
    // What a foot pedal types.
    pagedown: done,
    u: undo,
    s: () => change({ sound: !settings.sound }),
    l: () => action.kind === 'do' && open('late'),
    n: () => open('note'),
    x: () => open('spoilt'),
    p: () => open('photo'),
  });

  if (action.kind === 'finished')
    return (
      <Flex direction="column" minH="100dvh" p="6" gap="5" justify="center" as="main">
        <Text as="h1" fontFamily="heading" fontWeight="700" fontSize="3rem" lineHeight="1.1">
          All done at the bench
        </Text>
        <Text fontSize="1.3rem">
          Every patch has been looked at. Photograph each one dry, through the reading card.
        </Text>
        <Button size="2xl" colorPalette="buoy" onClick={leave} minH="6rem" fontSize="2rem">
          Leave the bench
        </Button>
        <Undo undo={undo} what={undoable && undoSays(undoable)} />
      </Flex>
    );
  const line = progressOf(plan, records).lines.find(l => l.patch.code === action.patch.code)!;
  const since = line.doneAt.reduce<number | undefined>(
    (max, t) => (t === undefined ? max : Math.max(max ?? t, t)),
    undefined,
  );
  return (
    <Flex
      direction="column"
      minH="100dvh"
      as="main"
      onClickCapture={letGo}
      onClick={e => isLowerHalf(e) && done()}
    >
      <Flex px="4" pt="2" gap="2" align="center" wrap="wrap">
        <Button variant="ghost" minH="44px" px={{ base: '2', md: '4' }} onClick={leave}>
          Leave the bench
        </Button>
        <Text flex="1" color="fg.muted" truncate display={{ base: 'none', md: 'block' }}>
          {plan.name}
        </Text>
        <Button variant="ghost" minH="44px" px="2.5" onClick={setUp}>
          Air
        </Button>
        <Switches />
        <Undo undo={undo} what={undoable && undoSays(undoable)} />
      </Flex>
      <Banners {...{ turn, problem, now }} elsewhere={dueElsewhere(trials, plan.id, now)} />
      <Instruction plan={plan} now={now} {...bench} action={action} />
      <Controls
        action={action}
        now={now}
        early={early}
        mine={turn.mine}
        busy={record.busy}
        aside={aside}
        done={done}
        open={open}
      >
        {aside && (
          <Aside
            key={`${aside}${action.patch.code}`}
            name={aside}
            {...{ plan, workshop, keep, since, also }}
            patch={action.patch}
            link={action.link}
            close={() => setAside(undefined)}
          />
        )}
      </Controls>
    </Flex>
  );
}

/** A button that was tapped does not keep the keys: the next press of space or of a pedal is for the work again. */
function letGo(e: React.MouseEvent) {
  const button = (e.target as Element).closest('button');
  if (e.detail > 0 && button instanceof HTMLElement) button.blur();
}

/** A tap on nothing else in the lower half of the screen: as good as the control itself. */
const isLowerHalf = (e: React.MouseEvent): boolean =>
  e.clientY > window.innerHeight / 2 &&
  !(e.target as Element).closest('button, input, a, label, aside, section, [role=group], [role=status]');

function Undo({ undo, what }: { undo: () => void; what: string | undefined }) {
  return (
    <Button
      variant="outline"
      minH="44px"
      gap="0"
      onClick={undo}
      disabled={!what}
      title="Key: U"
      aria-label={what ? `Undo: ${what}` : 'Undo: nothing yet'}
    >
      <Box as="span">Undo</Box>
      <Box as="span" display={{ base: 'none', md: 'inline' }}>
        {what ? `: ${what}` : ': nothing yet'}
      </Box>
    </Button>
  );
}

const undoSays = (r: TrialRecord) => `${r.patch ?? ''} ${undoWords(r)}`;

/** Keys of the bench; none of them works while something is typed, and space and enter press a focused button. */
function useBenchKeys(keys: Record<string, () => void>) {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const { target } = e;
      if (target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
      const isPress = e.key === ' ' || e.key === 'Enter';
      const act = keys[isPress ? e.key : e.key.toLowerCase()];
      if (!act || (isPress && target instanceof HTMLButtonElement)) return;
      e.preventDefault();
      if (!e.repeat) act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
}
