import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { TrialSummary } from '../../core/summary/index.ts';
import { unitOf } from '../../core/trial/index.ts';
import { useReadAhead } from '../../store/index.ts';
import { Box, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import type { Running } from './hands.tsx';

const RouterLink = chakra(Link);

/** The stage a trial is at, by where it stands. */
const STAGE = { planned: 'print', 'under way': 'make', 'to read': 'read', read: 'keep' } as const;

function words({ standing, read, patches }: TrialSummary, running: Running | undefined): string {
  switch (standing) {
    case 'planned':
      return 'planned';
    case 'under way':
      if (!running) return 'under way';
      return running.action.kind === 'wait' ? 'drying' : 'being made';
    case 'to read':
      return `to be read: ${read} of ${patches}`;
    case 'read':
      return 'finished and read';
  }
}

/** One trial in the list: what it asks, where it stands, and the way to the stage it is at. */
export function TrialRow({
  summary,
  running,
  ends,
  now,
}: {
  summary: TrialSummary;
  running: Running | undefined;
  /** When it is done, ms; nothing where it is not under way. */
  ends?: number | undefined;
  now: number;
}) {
  const workshop = useWorkshop();
  const readAhead = useReadAhead(workshop);
  return (
    <RouterLink
      to={`/w/${workshop}/t/${summary.id}/${STAGE[summary.standing]}`}
      onPointerEnter={() => readAhead(summary.id)}
      onFocus={() => readAhead(summary.id)}
      display="grid"
      gridTemplateColumns={{ base: '1fr', md: '3fr 1fr 1fr' }}
      columnGap="5"
      py="3"
      borderTopWidth="1px"
      _hover={{ bg: 'bg.subtle' }}
    >
      <Box>
        <Text fontWeight="700" fontSize="1.15rem">
          {summary.name}
        </Text>
        <Text color="fg.muted">{summary.question}</Text>
        {summary.tags.length > 0 && <Text fontSize="0.95rem">Filed under {summary.tags.join(', ')}</Text>}
      </Box>
      <Text>
        {summary.patches} {summary.patches === 1 ? unitOf(summary).one : unitOf(summary).many},{' '}
        {summary.real ? '' : 'trial '}
        {summary.code}
      </Text>
      <Box>
        <Text fontWeight="600">{words(summary, running)}</Text>
        {ends && (
          <Text color="fg.muted" fontSize="0.95rem">
            done about {moment(ends, now)}
          </Text>
        )}
      </Box>
    </RouterLink>
  );
}
