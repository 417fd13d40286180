import { Box, Button, Flex, Text } from '@chakra-ui/react';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { type Action, benchOf, cautionsAt, nextAction } from '../../core/schedule/index.ts';
import { lastUndoable, levelNames, settingsOf, standing, type TrialPlan } from '../../core/trial/index.ts';
import { clock } from '../../core/units/index.ts';
import { useAppend } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { Hatch, PatchWriting } from '../board/marks.tsx';
import { failure, useNotice } from '../shell/notices.tsx';
import { useSettings } from '../shell/settings.tsx';
import { moment, useNow } from '../shell/time.ts';
import { type TrialView, WithTrial } from '../trial/frame.tsx';
import { Cautions } from './cautions.tsx';
import { useCues, useWakeLock } from './cues.ts';
import { SetUp } from './set-up.tsx';
import { StepDrawing } from './step-drawing.tsx';

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
    kept.some(r => r.kind === 'air') && lastHere && Date.now() - Date.parse(lastHere.at) < HALF_DAY;
  const navigate = useNavigate();
  const leave = useCallback(
    () => void navigate(`/w/${workshop}/t/${plan.id}/make`),
    [navigate, workshop, plan.id],
  );
  useWakeLock();
  useEffect(() => {
    const listen = (e: KeyboardEvent) => e.key === 'Escape' && leave();
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [leave]);
  return fresh ? <AtWork view={view} leave={leave} /> : <SetUp view={view} leave={leave} />;
}

function AtWork({ view, leave }: { view: TrialView; leave: () => void }) {
  const { plan, records, workshop } = view;
  const now = useNow(250);
  const { settings, change } = useSettings();
  const append = useAppend(workshop, plan.id);
  const tell = useNotice();
  const action = nextAction(benchOf(plan, records), now);
  const undoable = lastUndoable(records);
  const [early, setEarly] = useState(false);
  useCues(action, now, settings.sound);

  const done = useCallback(() => {
    if (append.isPending || action.kind === 'finished') return;
    const soon = action.kind === 'wait' || (action.status.window && Date.now() < action.status.window.opens);
    // A step that must not come yet needs a second press, so that an elbow cannot start it.
    if (soon && !early) return setEarly(true);
    setEarly(false);
    append.mutate(
      [{ kind: 'step', patch: action.patch.code, step: action.link.step.id, round: action.link.round }],
      { onError: e => tell(failure(e)) },
    );
  }, [action, append, early, tell]);
  const undo = useCallback(() => {
    if (!undoable || append.isPending) return;
    setEarly(false);
    append.mutate([{ kind: 'undo', patch: undoable.patch, of: undoable.id }], {
      onError: e => tell(failure(e)),
    });
  }, [undoable, append, tell]);
  useBenchKeys({ done, undo, sound: () => change({ sound: !settings.sound }) });

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
  const settingsNow = settingsOf(plan, action.patch);
  return (
    <Flex direction="column" minH="100dvh" as="main">
      <Flex px="4" pt="2" gap="2" align="center" wrap="wrap">
        <Button variant="ghost" minH="44px" onClick={leave}>
          Leave the bench
        </Button>
        <Text flex="1" color="fg.muted" truncate>
          {plan.name}
        </Text>
        <Button variant="ghost" minH="44px" onClick={() => change({ sound: !settings.sound })}>
          Sound {settings.sound ? 'on' : 'off'}
        </Button>
        <Undo undo={undo} what={undoable && undoWords(undoable)} />
      </Flex>
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
          {action.kind === 'do' && step.check && (
            <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="600">
              {step.check}
            </Text>
          )}
          <Text color="fg.muted" fontSize="1.1rem" mt="1">
            {levelNames(plan, action.patch).join(', ')}
            {step.eachRound && settingsNow.rounds > 1 ? ` · round ${round} of ${settingsNow.rounds}` : ''}
          </Text>
          <Clock action={action} now={now} />
          {action.kind === 'do' && (
            <Box mt="3">
              <Cautions ids={cautionsAt(step, settingsNow)} />
            </Box>
          )}
        </Box>
        <Box flex="2" maxW={{ base: '12rem', md: '26rem' }}>
          <BoardDrawing
            plan={oneBoard(plan, action.patch.board)}
            selected={action.patch.code}
            name="Where on the board"
            say={p => (p.code === action.patch.code ? `${p.code}: this one` : p.code)}
            draw={p =>
              p.code === action.patch.code ? (
                <g>
                  <PatchWriting size={plan.patchMm} head={p.code} lines={[]} />
                  <Hatch size={plan.patchMm} kind="full" />
                </g>
              ) : (
                <PatchWriting size={plan.patchMm} head={p.code} lines={[]} />
              )
            }
          />
          <Box display={{ base: 'none', md: 'block' }}>
            <StepDrawing step={step.id} />
          </Box>
        </Box>
      </Flex>
      <Button
        colorPalette={action.kind === 'wait' ? 'tide' : 'buoy'}
        variant={action.kind === 'wait' ? 'outline' : 'solid'}
        onClick={done}
        loading={append.isPending}
        minH={{ base: '26dvh', md: '28dvh' }}
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
    </Flex>
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
    <Button variant="outline" minH="44px" onClick={undo} disabled={!what} title="Key: U">
      {what ? `Undo: ${what}` : 'Nothing to undo'}
    </Button>
  );
}

const undoWords = (r: NonNullable<ReturnType<typeof lastUndoable>>) =>
  `${r.patch ?? ''} ${r.kind === 'step' ? r.step : r.kind}`;

/** Counts down to the aim, then on past it; says when the window opens and closes. */
function Clock({ action, now }: { action: Exclude<Action, { kind: 'finished' }>; now: number }) {
  const w = action.status.window;
  if (!w) return null;
  const left = w.aim - now;
  const state =
    now > w.closes
      ? 'Overdue: do it at once'
      : now < w.opens
        ? `Not before ${moment(w.opens, now)}`
        : `Now, until ${moment(w.closes, now)}`;
  const short = w.closes - w.opens < 1_800_000;
  return (
    <Box mt="3" role="timer" aria-label={`${clock(left)} to the aim. ${state}`}>
      <Text
        fontWeight="700"
        fontSize={{ base: '4rem', md: '6rem' }}
        lineHeight="1"
        color={now > w.closes ? 'buoy.fg' : 'fg'}
      >
        {left >= 0 ? clock(left) : `+${clock(-left)}`}
      </Text>
      <Text fontSize="1.2rem" fontWeight="600">
        {state}
      </Text>
      <Text color="fg.muted">
        {left >= 0 ? 'left to the best moment' : 'past the best moment'}
        {short ? `; the window closes in ${clock(Math.max(0, w.closes - now))}` : ''}
      </Text>
    </Box>
  );
}

function useBenchKeys({ done, undo, sound }: { done: () => void; undo: () => void; sound: () => void }) {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const onButton = e.target instanceof HTMLButtonElement;
      if ((e.key === ' ' || e.key === 'Enter') && !onButton) {
        e.preventDefault();
        if (!e.repeat) done();
      }
      if (e.key.toLowerCase() === 'u') undo();
      if (e.key.toLowerCase() === 's') sound();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [done, undo, sound]);
}
