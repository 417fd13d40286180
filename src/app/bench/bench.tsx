import { Box, Button, Flex, Text } from '@chakra-ui/react';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { atBench, benchOf, cautionsAt } from '../../core/schedule/index.ts';
import {
  lastUndoable,
  levelNames,
  type Patch,
  settingsOf,
  standing,
  type TrialPlan,
} from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';
import { clockBehind, presentMs, type RecordDraft, useAppend } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { Hatch, PatchWriting } from '../board/marks.tsx';
import { failure, useNotice } from '../shell/notices.tsx';
import { useSettings } from '../shell/settings.tsx';
import { moment, useNow } from '../shell/time.ts';
import { type TrialView, WithTrial } from '../trial/frame.tsx';
import { Aside, type AsideName } from './asides.tsx';
import { Cautions } from './cautions.tsx';
import { Clock } from './clock.tsx';
import { useCues, useWakeLock } from './cues.ts';
import { SetUp } from './set-up.tsx';
import { StepDrawing } from './step-drawing.tsx';
import { Switches } from './switches.tsx';
import { UpNext } from './up-next.tsx';
import { useAgenda } from './use-agenda.ts';
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
  const append = useAppend(workshop, plan.id);
  const tell = useNotice();
  const turn = useTurn(`${workshop} ${plan.id}`);
  const { agenda, problem } = useAgenda(plan, records, settings.working, now);
  const { action, first, next, waiting } = atBench(plan, records, agenda, now);
  const undoable = lastUndoable(records);
  const [early, setEarly] = useState(false);
  const [aside, setAside] = useState<AsideName>();
  useCues(action, now, settings);

  const keep = useCallback(
    async (drafts: readonly RecordDraft[], before?: () => Promise<unknown>) => {
      if (append.isPending || !turn.mine) return;
      try {
        await before?.();
        await append.mutateAsync(drafts);
        setAside(undefined);
        setEarly(false);
      } catch (error) {
        tell(failure(error));
      }
    },
    [append, tell, turn.mine],
  );
  const done = useCallback(() => {
    if (append.isPending || action.kind === 'finished') return;
    const { window } = action.status;
    const soon = window ? presentMs() < window.opens : action.kind === 'wait';
    // A step that must not come yet needs a second press, so that an elbow cannot start it.
    if (soon && !early) return setEarly(true);
    void keep([
      { kind: 'step', patch: action.patch.code, step: action.link.step.id, round: action.link.round },
    ]);
  }, [action, append.isPending, early, keep]);
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
        <Undo undo={undo} what={undoable && undoWords(undoable)} />
      </Flex>
    );
  const { step, round } = action.link;
  const line = benchOf(plan, records).lines.find(l => l.patch.code === action.patch.code)!;
  const settingsNow = settingsOf(plan, action.patch);
  const isCoated = action.status.last?.step.id === 'coat';
  const since = line.doneAt.reduce<number | undefined>(
    (max, t) => (t === undefined ? max : Math.max(max ?? t, t)),
    undefined,
  );
  return (
    <Flex direction="column" minH="100dvh" as="main" onClick={e => isLowerHalf(e) && done()}>
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
        <Undo undo={undo} what={undoable && undoWords(undoable)} />
      </Flex>
      {!turn.mine && (
        <Flex bg="tide.subtle" px="4" py="2" gap="3" align="center" wrap="wrap" role="status">
          <Text flex="1">Another tab works at this bench. This one follows it.</Text>
          <Button minH="48px" variant="outline" onClick={turn.take}>
            Work here instead
          </Button>
        </Flex>
      )}
      {clockBehind() > 60_000 && (
        <Text bg="warn.subtle" px="4" py="2" role="status">
          This computer’s clock was set back by {span(clockBehind() / 60_000)}. Times here go on as before;
          set the clock right when you can.
        </Text>
      )}
      {problem && (
        <Text bg="warn.subtle" px="4" py="2" role="status">
          Not everything fits into the time there is. {problem.say} {problem.wayOut} Until then the most
          urgent comes first.
        </Text>
      )}
      <Flex
        flex="1"
        direction={{ base: 'column', md: 'row' }}
        px={{ base: '4', md: '6' }}
        pb="3"
        gap={{ base: '3', md: '8' }}
      >
        <Box flex="3">
          <Flex align="baseline" gap="4" wrap="wrap">
            <Text
              as="h1"
              fontFamily="heading"
              fontWeight="700"
              fontSize={{ base: '2.3rem', md: '3.4rem' }}
              lineHeight="1.05"
            >
              {action.kind === 'wait' ? 'Wait' : step.action}
            </Text>
            <Text fontWeight="700" fontSize={{ base: '1.9rem', md: '2.6rem' }} letterSpacing="0.02em">
              {action.patch.code}
            </Text>
          </Flex>
          <Text fontSize={{ base: '1.15rem', md: '1.45rem' }} mt="2">
            {action.kind === 'wait' ? (
              <>
                Then: {step.action.toLowerCase()}. {action.status.last?.step.tooSoon ?? ''}
              </>
            ) : (
              step.instruction
            )}
          </Text>
          {action.kind === 'do' && first.length > 0 && (
            <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="700" color="tide.fg">
              {first.includes('wash') && 'First wash the brush: it was in another medium. '}
              {first.includes('make') && 'First mix a new batch. '}
            </Text>
          )}
          {action.kind === 'do' && step.check && (
            <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="600">
              {step.check}
            </Text>
          )}
          <Text color="fg.muted" fontSize="1.1rem" mt="1">
            {levelNames(plan, action.patch).join(', ')}
            {step.eachRound && settingsNow.rounds > 1 ? ` · round ${round} of ${settingsNow.rounds}` : ''}
          </Text>
          <Box display={{ base: 'block', md: 'none' }} float="right" w="8.5rem" mt="2" ml="2">
            <WhereItLies plan={plan} patch={action.patch} />
          </Box>
          <Clock action={action} now={now} />
          {action.kind === 'do' && (
            <Box mt="3">
              <Cautions ids={cautionsAt(step, settingsNow)} />
            </Box>
          )}
          <UpNext next={next} waiting={waiting} now={now} />
        </Box>
        <Box flex="2" maxW="21rem" display={{ base: 'none', md: 'block' }}>
          <WhereItLies plan={plan} patch={action.patch} />
          <StepDrawing step={step.id} />
        </Box>
      </Flex>
      <Box position="sticky" bottom="0" zIndex="docked" bg="bg">
        <Flex px={{ base: '2', md: '4' }} py="2" gap={{ base: '1.5', md: '2' }} wrap="wrap">
          {(
            [
              ...(action.kind === 'do' ? [['late', 'I was late']] : []),
              ['spoilt', 'Spoilt'],
              ...(action.kind === 'do' && step.id !== 'mark' ? [['skip', 'Skip']] : []),
              ['note', 'Note'],
              ['photo', 'Photo now'],
              ...(isCoated ? [['weigh', 'Weigh the coat']] : []),
            ] as [AsideName, string][]
          ).map(([name, words]) => (
            <Button
              key={name}
              variant={aside === name ? 'solid' : 'outline'}
              colorPalette="tide"
              minH="48px"
              px={{ base: '3', md: '4' }}
              aria-expanded={aside === name}
              disabled={!turn.mine}
              onClick={() => open(name)}
            >
              {words}
            </Button>
          ))}
        </Flex>
        {aside && (
          <Aside
            key={`${aside}${action.patch.code}`}
            name={aside}
            {...{ plan, workshop, keep, since }}
            patch={action.patch}
            link={action.link}
            close={() => setAside(undefined)}
          />
        )}
        <Button
          colorPalette={action.kind === 'wait' ? 'tide' : 'buoy'}
          variant={action.kind === 'wait' ? 'outline' : 'solid'}
          onClick={done}
          loading={append.isPending}
          disabled={!turn.mine}
          w="100%"
          minH={{ base: '22dvh', md: '24dvh' }}
          rounded="none"
          fontSize={{ base: '2.2rem', md: '3rem' }}
          fontFamily="heading"
          whiteSpace="normal"
        >
          {early
            ? 'Really now? It is too soon. Press again'
            : action.kind === 'wait'
              ? `Waiting until ${moment(action.until, now)}`
              : step.done}
        </Button>
      </Box>
    </Flex>
  );
}

/** A tap on nothing else in the lower half of the screen: as good as the control itself. */
const isLowerHalf = (e: React.MouseEvent): boolean =>
  e.clientY > window.innerHeight / 2 &&
  !(e.target as Element).closest('button, input, a, label, aside, section, [role=group], [role=status]');

/** The board with the patch that is meant. */
function WhereItLies({ plan, patch }: { plan: TrialPlan; patch: Patch }) {
  return (
    <BoardDrawing
      plan={oneBoard(plan, patch.board)}
      selected={patch.code}
      name="Where on the board"
      say={p => (p.code === patch.code ? `${p.code}: this one` : p.code)}
      draw={p => (
        <g>
          <PatchWriting size={plan.patchMm} head={p.code} lines={[]} />
          {p.code === patch.code && <Hatch size={plan.patchMm} kind="full" />}
        </g>
      )}
    />
  );
}

/** The plan with only the board that is being worked on, so that it is drawn large. */
const oneBoard = (plan: TrialPlan, board: number) => ({
  ...plan,
  board: { ...plan.board, count: 1 },
  patches: plan.patches.filter(p => p.board === board).map(p => ({ ...p, board: 0 })),
});

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

const undoWords = (r: NonNullable<ReturnType<typeof lastUndoable>>) =>
  `${r.patch ?? ''} ${r.kind === 'step' ? r.step : r.kind === 'coat' ? 'weight' : r.kind}`;

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
