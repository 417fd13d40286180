import { Box, Button, Flex, Heading, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import { progressOf } from '../../core/progress/index.ts';
import { nextAction } from '../../core/schedule/index.ts';
import { type StoredTrial, useAllRecords, useTrials, useWorkshopActions } from '../../store/index.ts';
import { useNow } from '../ui/time.ts';
import { useWorkshop } from '../ui/workshop.ts';
import { Empty } from './empty.tsx';
import { Hands } from './hands.tsx';
import { ImportTrial } from './import-trial.tsx';
import type { Running } from './running.ts';
import { TrialRow } from './trial-row.tsx';

/** The opening view: what needs hands now, what waits until when, then the trials. */
export function OpeningView() {
  const workshop = useWorkshop();
  const trials = useTrials(workshop);
  const now = useNow(5000);
  const here = trials.data?.trials.filter(t => !t.removedAt) ?? [];
  const removed = trials.data?.trials.filter(t => t.removedAt) ?? [];
  const records = useAllRecords(
    workshop,
    here.map(t => t.plan.id),
  );
  if (trials.isError)
    return (
      <Box as="main" p="6" maxW="44rem">
        <Heading as="h1" size="2xl" mb="2">
          The workshop cannot be opened
        </Heading>
        <Text>
          {trials.error instanceof Error ? trials.error.message : ''} This browser may be blocking storage for
          this page. Allow it, then load the page again.
        </Text>
      </Box>
    );
  if (trials.isPending || (here.length > 0 && !records.data))
    return (
      <Box p="8" role="status">
        Opening the workshop…
      </Box>
    );
  const running: Running[] = here.map(({ plan }) => {
    const all = records.data?.get(plan.id) ?? [];
    return { plan, records: all, action: nextAction(progressOf(plan, all), now) };
  });
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="76rem">
      {here.length === 0 ? <Empty /> : <Hands running={running} now={now} />}
      {here.length > 0 && (
        <>
          <Flex align="center" mt="9" mb="1" gap="4" wrap="wrap">
            <Heading as="h2" size="xl" flex="1">
              Trials
            </Heading>
            <Button asChild colorPalette="tide" minH="44px">
              <Link to={`/w/${workshop}/new`}>Plan a new trial</Link>
            </Button>
            <ImportTrial />
          </Flex>
          {running.map(r => (
            <TrialRow key={r.plan.id} {...r} />
          ))}
        </>
      )}
      {trials.data!.damaged > 0 && (
        <Text mt="5" color="warn.fg">
          {trials.data!.damaged} stored {trials.data!.damaged === 1 ? 'trial' : 'trials'} cannot be read by
          this version. Nothing was deleted.
        </Text>
      )}
      {removed.length > 0 && <Removed trials={removed} />}
    </Box>
  );
}

function Removed({ trials }: { trials: readonly StoredTrial[] }) {
  const { restore, erase } = useWorkshopActions(useWorkshop());
  return (
    <Box mt="9">
      <Heading as="h2" size="lg" mb="1">
        Removed trials
      </Heading>
      <Text color="fg.muted" mb="2">
        Kept until you erase them. Erasing cannot be undone: export first what you want to keep.
      </Text>
      {trials.map(({ plan }) => (
        <Flex key={plan.id} py="2" borderTopWidth="1px" gap="3" align="center" wrap="wrap">
          <Text flex="1">{plan.name}</Text>
          <Button size="sm" minH="40px" variant="outline" onClick={() => restore(plan)}>
            Bring back
          </Button>
          <Button size="sm" minH="40px" variant="outline" onClick={() => erase(plan.id)}>
            Erase for good
          </Button>
        </Flex>
      ))}
    </Box>
  );
}
