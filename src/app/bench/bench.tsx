import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { signBefore } from '../../core/drying/index.ts';
import { progressOf } from '../../core/progress/index.ts';
import { dueElsewhere } from '../../core/schedule/index.ts';
import { lastUndoable, standing } from '../../core/trial/index.ts';
import { presentMs, useUnderWay } from '../../store/index.ts';
import { type TrialView, WithTrial } from '../trial/view.tsx';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { titled, useTitle } from '../ui/page-focus.ts';
import { useSettings } from '../ui/settings.tsx';
import { useAtHand, useNext } from '../workshop/use-next.ts';
import { useNow } from '../workshop/use-now.ts';
import { useRecord } from '../workshop/use-record.ts';
import type { AsideName } from './asides.tsx';
import { Banners } from './banners.tsx';
import { isLowerTap, lastDoneAt, needsSetUp, undoSays, unseenOf } from './bench.model.ts';
import { Controls } from './controls.tsx';
import { useCues, useSpoken, useWakeLock } from './cues.ts';
import { Elsewhere } from './elsewhere.tsx';
import { Instruction } from './instruction.tsx';
import { SetUp } from './set-up.tsx';
import { Switches } from './switches.tsx';
import { useBenchKeys } from './use-bench-keys.ts';
import { NOTHING, useDeeds } from './use-deeds.ts';
import { useScreen } from './use-screen.ts';
import { useTurn } from './use-turn.ts';

const asides = () => import('./asides.tsx');
const Aside = lazy(async () => ({ default: (await asides()).Aside }));

/** The bench: one instruction, one clock, one control. Set-up comes first, and again after half a day away. */
export function BenchView() {
  return <WithTrial>{view => <Bench view={view} />}</WithTrial>;
}

function Bench({ view }: { view: TrialView }) {
  const { plan, records, workshop } = view;
  const kept = standing(records);
  const navigate = useNavigate();
  const leave = useCallback(
    () => void navigate(`/w/${workshop}/t/${plan.id}/make`),
    [navigate, workshop, plan.id],
  );
  useWakeLock();
  useTitle(titled(`The bench: ${plan.name}`));
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
  return again || needsSetUp(records, presentMs()) ? (
    <SetUp view={view} leave={leave} />
  ) : (
    <AtWork view={view} leave={leave} setUp={() => setAgain(true)} />
  );
}

function AtWork({ view, leave, setUp }: { view: TrialView; leave: () => void; setUp: () => void }) {
  const { plan, records, workshop } = view;
  const now = useNow(250);
  const { settings, change } = useSettings();
  const record = useRecord(workshop, plan.id);
  const turn = useTurn(`${workshop} ${plan.id}`);
  const [putAside, setPutAside] = useState(NOTHING);
  const bench = useNext(workshop, now, view, putAside);
  const { trials } = useUnderWay(workshop);
  const { action, also } = bench;
  const isHere = !bench.trial || bench.trial.id === plan.id;
  const undoable = lastUndoable(records);
  const [, pressCame] = useState(0);
  const [aside, setAside] = useState<AsideName>();
  // What lies beside the work is fetched after what needs hands stands there.
  useEffect(() => void asides().catch(() => undefined), []);
  useCues(action, now, settings);
  const known = useAtHand(workshop);
  const screen = useScreen(workshop, bench, known, isHere && bench.here && turn.mine);

  const sign = action.kind === 'do' && isHere ? signBefore(view, action.patch.code) : undefined;
  useSpoken(action, settings.speech, sign);
  const { keep, done, notYet, undo, later, choose, giveUp, pick } = useDeeds({
    ...{ view, bench, record, sign, screen, known, undoable },
    mine: turn.mine,
    speaks: settings.speech,
    onKept: () => setAside(undefined),
    putAside: setPutAside,
    onPress: pressCame,
  });
  const open = (name: AsideName) => setAside(aside === name ? undefined : name);
  const press = () => void done();
  useBenchKeys({
    ' ': press,
    Enter: press,
    // What a foot pedal types.
    pagedown: press,
    u: () => void undo(),
    d: later,
    s: () => change({ sound: !settings.sound }),
    v: () => change({ speech: !settings.speech }),
    l: () => action.kind === 'do' && open('late'),
    n: () => open('note'),
    x: () => open('spoilt'),
    p: () => open('photo'),
    r: () => void notYet(),
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
        <Undo undo={() => void undo()} what={undoable && undoSays(undoable)} />
      </Flex>
    );
  if (!isHere && bench.trial)
    return (
      <Elsewhere
        {...{ action, leave, workshop, screen }}
        trial={bench.trial}
        isAtHand={bench.isAtHand}
        here={plan}
        now={now}
      />
    );
  const unseen = unseenOf(records, [action.patch.code, ...also]);
  const line = progressOf(plan, records).lines.find(l => l.patch.code === action.patch.code)!;
  const since = lastDoneAt(line);
  return (
    <Flex
      direction="column"
      minH="100dvh"
      as="main"
      onClickCapture={letGo}
      onClick={e => isLowerTap(e.clientY, window.innerHeight, isOnControl(e)) && press()}
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
        <Undo undo={() => void undo()} what={undoable && undoSays(undoable)} />
      </Flex>
      <Banners
        {...{ turn, now, giveUp }}
        losses={bench.losses.filter(l => l.trial.id === plan.id)}
        elsewhere={dueElsewhere(trials, plan.id, now)}
      />
      <Instruction
        {...bench}
        plan={plan}
        now={now}
        action={action}
        onChoose={choose}
        onPick={pick}
        unseen={unseen}
        sign={sign}
      />
      <Controls
        action={action}
        now={now}
        mine={turn.mine}
        busy={record.busy}
        aside={aside}
        said={screen.current.said}
        sign={sign}
        done={press}
        notYet={() => void notYet()}
        later={later}
        open={open}
      >
        {aside && (
          <Suspense>
            <Aside
              key={`${aside}${action.patch.code}`}
              name={aside}
              {...{ plan, records, workshop, keep, since, also }}
              patch={action.patch}
              link={action.link}
              close={() => setAside(undefined)}
            />
          </Suspense>
        )}
      </Controls>
    </Flex>
  );
}

/** A button or a place on the board that was tapped does not keep the keys: the next press of space or of a pedal is for the work again. */
function letGo(e: React.MouseEvent) {
  const button = (e.target as Element).closest('button, .patch');
  // After the click is over: a patch takes the focus with it.
  if (e.detail > 0 && (button instanceof HTMLElement || button instanceof SVGElement))
    setTimeout(() => button.blur());
}

const isOnControl = (e: React.MouseEvent): boolean =>
  (e.target as Element).closest(
    'button, input, a, label, aside, section, .patch, [role=group], [role=status]',
  ) !== null;

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
