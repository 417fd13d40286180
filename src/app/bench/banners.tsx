import { Button, Flex, Text } from '@chakra-ui/react';
import type { Problem } from '../../core/outcome/index.ts';
import { span } from '../../core/units/index.ts';
import { clockBehind } from '../../store/index.ts';
import type { useTurn } from './use-turn.ts';

/** What has to be known beside the work: another tab acts, the clock was set back, not everything fits. */
export function Banners({
  turn,
  problem,
}: {
  turn: ReturnType<typeof useTurn>;
  problem: Problem | undefined;
}) {
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
    </>
  );
}
