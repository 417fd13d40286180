import { Link } from 'react-router';
import type { LikelyLoss } from '../../core/advice/index.ts';
import { span, within } from '../../core/say/index.ts';
import type { dueElsewhere } from '../../core/schedule/index.ts';
import { clockBehind } from '../../store/index.ts';
import { Button, Flex, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import type { useTurn } from './use-turn.ts';

/** What has to be known beside the work: another tab acts, the clock was set back, not everything fits. */
export function Banners({
  turn,
  losses,
  elsewhere,
  giveUp,
  now,
}: {
  turn: ReturnType<typeof useTurn>;
  losses: readonly LikelyLoss[];
  elsewhere: ReturnType<typeof dueElsewhere>;
  /** Writes a patch of this trial off, so that the others keep their times. */
  giveUp: (loss: LikelyLoss) => void;
  now: number;
}) {
  const workshop = useWorkshop();
  const [due] = elsewhere;
  const [lost] = losses;
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
      {lost && (
        <Flex bg="warn.subtle" px="4" py="2" gap="3" align="center" wrap="wrap" role="status">
          <Text flex="1" minW="12rem">
            <b>{lost.patch}</b> will probably miss its window: {within(lost.what)} by{' '}
            {moment(lost.closes, now)}. Giving it up costs one patch of its kind; the others keep theirs.
            {losses.length > 1 &&
              ` So will ${losses
                .slice(1, 4)
                .map(l => l.patch)
                .join(', ')}.`}
          </Text>
          <Button minH="48px" variant="outline" onClick={() => giveUp(lost)}>
            Give {lost.patch} up
          </Button>
        </Flex>
      )}
      {due && (
        <Flex bg="tide.subtle" px="4" py="2" gap="3" align="center" wrap="wrap" role="status">
          <Text flex="1" minW="12rem">
            “{due.trial.name}” needs hands too: {within(due.what)}, {due.patch}
            {elsewhere.length > 1 ? ` and ${elsewhere.length - 1} more` : ''}
            {Number.isFinite(due.closes) && `, until ${moment(due.closes, now)}`}.
          </Text>
          <Button asChild minH="48px" variant="outline">
            <Link to={`/w/${workshop}/t/${due.trial.id}/bench`}>Go there</Link>
          </Button>
        </Flex>
      )}
    </>
  );
}
