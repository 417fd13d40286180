import type { Next } from '../../core/advice/index.ts';
import type { Sign } from '../../core/drying/index.ts';
import type { Step } from '../../core/methods/index.ts';
import { joined, say, thick, type Words, within, write } from '../../core/say/index.ts';
import type { Action } from '../../core/schedule/index.ts';
import { cautionsAt, chainOf, whichTime, withWhat } from '../../core/steps/index.ts';
import {
  carrierOf,
  levelNames,
  type Patch,
  settingsOf,
  shortSide,
  type TrialPlan,
  underOf,
} from '../../core/trial/index.ts';

import { BoardDrawing } from '../board/board.tsx';
import { Hatch, PatchWriting } from '../board/marks.tsx';
import { Cautions } from '../ui/cautions.tsx';
import { Box, Flex, Text } from '../ui/kit.tsx';
import { Said, useSettings } from '../ui/settings.tsx';
import { ClockWords, Figures } from './clock.tsx';
import { ASKS } from './cues.ts';
import { StepDrawing } from './step-drawing.tsx';
import { UpNext } from './up-next.tsx';

/** The one thing to do: what, on which patch, how, until when, with its caution and its place on the board; then what comes. */
export function Instruction({
  plan,
  action,
  also,
  first,
  next,
  waiting,
  now,
  onChoose,
  onPick,
  unseen,
  sign,
}: Omit<Next, 'action'> & {
  plan: TrialPlan;
  /** Patches of this go of which there is no dry photo to compare with later. */
  unseen: readonly string[];
  /** What has to be seen before the step may be begun. */
  sign: Sign | undefined;
  action: Exclude<Action, { kind: 'finished' }>;
  now: number;
  onChoose: (patch: string, step: string, round: number) => void;
  /** Another place was tapped on the board. */
  onPick: (patch: string) => void;
}) {
  const { step } = action.link;
  const time = whichTime(chainOf(plan, action.patch), action.link);
  const settings = settingsOf(plan, action.patch);
  const { settings: units } = useSettings();
  const what = withWhat(step, settings);
  const below = underOf(plan, action.patch);
  const names = sharedNames(plan, [action.patch.code, ...also]).filter(name => write(name) !== what?.name);
  const isTimed = action.status.window !== undefined || action.kind === 'wait';
  return (
    <Flex
      flex="1"
      direction={{ base: 'column', md: 'row' }}
      px={{ base: '4', md: '6' }}
      pt={{ base: '1.5', md: '0' }}
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
            {action.kind === 'wait' ? 'Wait' : sign ? ASKS : step.action}
          </Text>
          <Text fontWeight="700" fontSize={{ base: '1.9rem', md: '2.6rem' }} letterSpacing="0.02em">
            {also.length ? placeName(plan, action.patch, step) : action.patch.code}
          </Text>
          <Box display={{ base: 'block', md: 'none' }} ms="auto">
            <Figures action={action} now={now} size="2.8rem" />
          </Box>
        </Flex>
        {also.length > 0 && (
          <Text fontSize={{ base: '1.15rem', md: '1.45rem' }} mt="2" fontWeight="700">
            All of it in one go: {[action.patch.code, ...also].join(', ')}.
          </Text>
        )}
        {action.kind === 'do' && !sign && what && (
          <Text fontSize={{ base: '1.25rem', md: '1.6rem' }} mt="2" fontWeight="700">
            {what.name}
            {what.coatMm !== undefined && write(say`, ${thick(what.coatMm)} thick`, units)}
          </Text>
        )}
        <Text fontSize={{ base: '1.15rem', md: '1.45rem' }} mt={what ? '1' : '2'}>
          {action.kind === 'wait' ? (
            <>
              {action.why && `${action.why} To begin all the same, choose a piece on the board. `}Then:{' '}
              {within(step.action)}. {action.status.last?.step.tooSoon ?? ''}
            </>
          ) : sign ? (
            <>
              <b>{sign.question}</b>
              {action.status.last?.step.tooSoon && ` Too soon: ${action.status.last.step.tooSoon}`}
              {sign.patches.length > 1 && ` The same goes for ${sign.patches.slice(1).join(', ')}.`} Then:{' '}
              {within(step.action)}.
            </>
          ) : (
            <Said>{step.instruction}</Said>
          )}
        </Text>
        {action.kind === 'do' && first.length > 0 && (
          <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="700" color="tide.fg">
            {first.includes('wash') && 'First wash the brush: it was in another medium. '}
            {first.includes('make') && 'First mix a new batch. '}
          </Text>
        )}
        {action.kind === 'do' && step.wears && unseen.length > 0 && (
          <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="700" color="warn.fg">
            First photograph it dry in Read: without a photo before, nobody can say what it lost. Missing:{' '}
            {unseen.slice(0, 4).join(', ')}
            {unseen.length > 4 ? ` and ${unseen.length - 4} more` : ''}.
          </Text>
        )}
        {action.kind === 'do' && !sign && step.check && (
          <Text fontSize={{ base: '1.1rem', md: '1.3rem' }} mt="1" fontWeight="600">
            {step.check}
          </Text>
        )}
        <Text color="fg.muted" fontSize="1.1rem" mt="1">
          <Said>
            {joined([...(below ? [`on top of ${below}`] : []), ...names, ...(time ? [time] : [])], ' · ')}
          </Said>
        </Text>
        {action.kind === 'do' && (
          <Box mt={{ base: '2', md: '3' }}>
            <Cautions ids={cautionsAt(step, settings)} />
          </Box>
        )}
        <Box display={{ base: 'block', md: 'none' }}>
          <ClockWords action={action} now={now} />
        </Box>
        <Box display={{ base: 'block', md: 'none' }} float="right" w="8.5rem" mt="2" ml="2">
          <WhereItLies plan={plan} patch={action.patch} also={also} onPick={onPick} />
        </Box>
        <UpNext {...{ next, waiting, now, onChoose }} here={plan} />
      </Box>
      <Box flex="2" maxW="25rem" minW="21rem" display={{ base: 'none', md: 'block' }}>
        <Figures action={action} now={now} size="5.2rem" />
        <ClockWords action={action} now={now} />
        <Flex gap="4" mt="2" direction={isTimed ? 'row' : 'column'} align="start">
          <Box flex="3" w="100%" maxW={isTimed ? undefined : '19rem'}>
            <WhereItLies plan={plan} patch={action.patch} also={also} onPick={onPick} />
          </Box>
          <Box flex="2" w="100%" maxW={isTimed ? undefined : '19rem'}>
            <StepDrawing does={step.does} />
          </Box>
        </Flex>
      </Box>
    </Flex>
  );
}

/** What patches have in common of what is varied. */
function sharedNames(plan: TrialPlan, codes: readonly string[]): Words[] {
  const [first, ...rest] = plan.patches.filter(p => codes.includes(p.code)).map(p => levelNames(plan, p));
  return first.filter((name, i) => rest.every(other => write(other[i]) === write(name)));
}

/** What is done in one go: a strip of a board that is prepared, or all of a board. */
function placeName(plan: TrialPlan, patch: Patch, step: Step): string {
  const { name } = carrierOf(plan, patch.board);
  const board = name ?? (plan.board.count > 1 ? `board ${patch.board + 1}` : 'the board');
  if (!step.onlyIfPrepared || plan.design.stripKey !== 'preparation' || patch.strip === undefined)
    return `all of ${board}`;
  const here = new Set(plan.patches.filter(p => p.board === patch.board).flatMap(p => p.strip ?? []));
  const number = [...here].sort((a, b) => a - b).indexOf(patch.strip) + 1;
  return `strip ${number} of ${board}`;
}

/** The board with the patch, or the patches, that are meant. */
function WhereItLies({
  plan,
  patch,
  also,
  onPick,
}: {
  plan: TrialPlan;
  patch: Patch;
  also: readonly string[];
  onPick: (patch: string) => void;
}) {
  const isMeant = (code: string) => code === patch.code || also.includes(code);
  return (
    <BoardDrawing
      plan={oneBoard(plan, patch.board)}
      selected={patch.code}
      onSelect={code => code && onPick(code)}
      name="Where on the board"
      say={p => (isMeant(p.code) ? `${p.code}: this one` : p.code)}
      draw={p => (
        <g>
          <PatchWriting size={shortSide(plan)} head={p.code} lines={[]} />
          {isMeant(p.code) && <Hatch size={shortSide(plan)} kind="full" />}
        </g>
      )}
    />
  );
}

/** The plan with only the board that is being worked on, so that it is drawn large. */
const oneBoard = (plan: TrialPlan, board: number) => ({
  ...plan,
  board: { ...plan.board, count: 1 },
  pieces: plan.pieces?.slice(board, board + 1),
  patches: plan.patches.filter(p => p.board === board).map(p => ({ ...p, board: 0 })),
});
