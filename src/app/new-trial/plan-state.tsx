import { Progress } from '@chakra-ui/react';
import { planCost } from '../../core/design/index.ts';
import { span } from '../../core/say/index.ts';
import { forecast } from '../../core/schedule/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { Button, Flex, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';
import type { Planning } from './use-plan.ts';

/** The one thing to do when the plan is as wanted. */
export function SaveIt({ nameless, busy, onSave }: { nameless: boolean; busy: boolean; onSave: () => void }) {
  return (
    <>
      <Button
        size="2xl"
        colorPalette="buoy"
        onClick={onSave}
        mt="2"
        w={{ base: '100%', lg: 'auto' }}
        disabled={busy}
      >
        Save the plan and print
      </Button>
      {nameless && (
        <Text mt="2" color="buoy.fg">
          Give the trial a name first.
        </Text>
      )}
    </>
  );
}

/** How far a search is, with its stop; or that it was stopped. */
export function State({ planning }: { planning: Planning }) {
  if (planning.state === 'searching')
    return (
      <Flex gap="3" align="center" my="3" role="status">
        <Text flex="none">Looking for the best set of patches</Text>
        <Progress.Root value={planning.share * 100} flex="1" aria-label="Search">
          <Progress.Track>
            <Progress.Range />
          </Progress.Track>
        </Progress.Root>
        {planning.stop && (
          <Button variant="outline" minH="40px" size="sm" onClick={planning.stop}>
            Stop
          </Button>
        )}
      </Flex>
    );
  if (planning.state === 'stopped')
    return (
      <Flex gap="3" align="center" my="3" role="status">
        <Text flex="1">The search was stopped. The board shows the plan from before.</Text>
        <Button variant="outline" minH="40px" size="sm" onClick={planning.again}>
          Search again
        </Button>
      </Flex>
    );
  return null;
}

/** A plan in one line: patches, material, work, end. */
export function InOneLine({ plan }: { plan: TrialPlan }) {
  const cost = planCost(plan);
  const start = Date.parse(plan.createdAt);
  const ahead = forecast(plan, [], start);
  return (
    <Text mt="2" fontSize="1.05rem">
      <b>{plan.patches.length} patches</b>
      {plan.board.count > 1 && ` on ${plan.board.count} ${plan.board.onePiece ? 'pieces' : 'boards'}`},{' '}
      material for {cost.total.toFixed(2)}, {span(ahead.handsOnMin)} of work, done about{' '}
      {moment(ahead.endsAt, start)}. Drag a patch to move it, or onto another to swap them.
    </Text>
  );
}
