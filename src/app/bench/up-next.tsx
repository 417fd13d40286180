import { useBreakpointValue } from '@chakra-ui/react';
import type { Next, Upcoming } from '../../core/advice/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { clock } from '../../core/units/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';
import { Unbroken } from '../ui/unbroken.tsx';

const AN_HOUR = 3_600_000;

/** The next two things and what is waiting meanwhile, each with its time; each can be taken in hand instead. */
export function UpNext({
  next,
  waiting,
  here,
  now,
  onChoose,
}: Pick<Next, 'next' | 'waiting'> & {
  here: TrialPlan;
  now: number;
  onChoose: (patch: string, step: string, round: number) => void;
}) {
  const when = (at: number) =>
    at - now < AN_HOUR && at > now ? `in ${clock(at - now)}` : at <= now ? 'then' : moment(at, now);
  const soon = waiting.slice(0, 3);
  // On a phone the list lies half under the control: there “Not now” leads to the next.
  const canChoose = useBreakpointValue({ base: false, md: true }, { ssr: false });
  const row = (one: Upcoming, at: string) => {
    const words = (
      <>
        <b>{at}</b>&nbsp;{one.link.step.action}, <Unbroken>{one.patch}</Unbroken>
        {one.trial.id !== here.id && ` of “${one.trial.name}”`}
      </>
    );
    const key = `${one.trial.id} ${one.patch} ${one.link.step.id} ${one.link.round}`;
    if (one.trial.id !== here.id || !canChoose) return <Text key={key}>{words}</Text>;
    return (
      <Text key={key}>
        <Button
          variant="plain"
          px="0"
          h="auto"
          minH="32px"
          fontSize="inherit"
          fontWeight="400"
          whiteSpace="normal"
          textAlign="start"
          title="Do this one instead"
          onClick={() => onChoose(one.patch, one.link.step.id, one.link.round)}
        >
          <span>{words}</span>
        </Button>
      </Text>
    );
  };
  return (
    <Flex gap={{ base: '3', md: '8' }} wrap="wrap" mt="3" fontSize={{ base: '1rem', md: '1.1rem' }}>
      {next.length > 0 && (
        <Box as="section" aria-label="After that">
          <Text color="fg.muted">After that</Text>
          {next.map(one => row(one, when(one.from)))}
        </Box>
      )}
      {waiting.length > 0 && (
        <Box as="section" aria-label="Waiting">
          <Text color="fg.muted">
            Waiting{waiting.length > soon.length ? `, ${waiting.length} in all` : ''}
          </Text>
          {soon.map(one => row(one, one.aim <= now ? 'due' : when(one.aim)))}
        </Box>
      )}
    </Flex>
  );
}
