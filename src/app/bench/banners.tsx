import { Button, Flex, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { Problem } from '../../core/outcome/index.ts';
import type { dueElsewhere } from '../../core/schedule/index.ts';
import { span } from '../../core/units/index.ts';
import { clockBehind } from '../../store/index.ts';
import { moment } from '../ui/time.ts';
import { useWorkshop } from '../ui/workshop.ts';
import type { useTurn } from './use-turn.ts';

/** What has to be known beside the work: another tab acts, the clock was set back, not everything fits. */
export function Banners({
  turn,
  problem,
  elsewhere,
  now,
}: {
  turn: ReturnType<typeof useTurn>;
  problem: Problem | undefined;
  elsewhere: ReturnType<typeof dueElsewhere>;
  now: number;
}) {
  const workshop = useWorkshop();
  const [due] = elsewhere;
  return (
    <>
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
      {due && (
        <Flex bg="tide.subtle" px="4" py="2" gap="3" align="center" wrap="wrap" role="status">
          <Text flex="1" minW="12rem">
            “{due.trial.name}” needs hands too: {due.what.toLowerCase()}, {due.patch}
            {elsewhere.length > 1 ? ` and ${elsewhere.length - 1} more` : ''}, until {moment(due.closes, now)}
            .
          </Text>
          <Button asChild minH="48px" variant="outline">
            <Link to={`/w/${workshop}/t/${due.trial.id}/bench`}>Go there</Link>
          </Button>
        </Flex>
      )}
    </>
  );
}
