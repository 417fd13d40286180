import { Box, chakra, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import { hasBegun } from '../../core/progress/index.ts';
import { forecast } from '../../core/schedule/index.ts';
import { readingOf } from '../../core/trial/index.ts';
import { moment } from '../ui/time.ts';
import { useWorkshop } from '../ui/workshop.ts';
import type { Running } from './running.ts';

const RouterLink = chakra(Link);

/** One trial in the list: what it asks, where it stands, and the way to the stage it is at. */
export function TrialRow({ plan, records, action }: Running) {
  const workshop = useWorkshop();
  const read = plan.patches.filter(p => readingOf(records, p.code)).length;
  const begun = hasBegun(records);
  const stage = !begun
    ? 'print'
    : action.kind !== 'finished'
      ? 'make'
      : read < plan.patches.length
        ? 'read'
        : 'keep';
  const word = !begun
    ? 'planned'
    : action.kind === 'wait'
      ? 'drying'
      : action.kind === 'do'
        ? 'being made'
        : read < plan.patches.length
          ? `to be read: ${read} of ${plan.patches.length}`
          : 'finished and read';
  const ends = begun && action.kind !== 'finished' ? forecast(plan, records, Date.now()).endsAt : undefined;
  return (
    <RouterLink
      to={`/w/${workshop}/t/${plan.id}/${stage}`}
      display="grid"
      gridTemplateColumns={{ base: '1fr', md: '3fr 1fr 1fr' }}
      columnGap="5"
      py="3"
      borderTopWidth="1px"
      _hover={{ bg: 'bg.subtle' }}
    >
      <Box>
        <Text fontWeight="700" fontSize="1.15rem">
          {plan.name}
        </Text>
        <Text color="fg.muted">{plan.question}</Text>
      </Box>
      <Text>
        {plan.patches.length} patches, trial {plan.code}
      </Text>
      <Box>
        <Text fontWeight="600">{word}</Text>
        {ends && (
          <Text color="fg.muted" fontSize="0.95rem">
            done about {moment(ends, Date.now())}
          </Text>
        )}
      </Box>
    </RouterLink>
  );
}
