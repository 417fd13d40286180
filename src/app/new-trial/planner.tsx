import { Link, useSearchParams } from 'react-router';
import { requestOf } from '../../core/design/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import { hasBegun } from '../../core/progress/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { changesIn, planNow } from '../../core/trial/index.ts';
import { useMethods, useRecords, useShelf, usePlan as useStoredPlan } from '../../store/index.ts';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { Editing } from './editing.tsx';
import { requestFrom } from './from.ts';

/** The planner: begun from a question, a pairing, a method, or a trial that is there. */
export function Planner() {
  const workshop = useWorkshop();
  const stored = useShelf(workshop);
  const own = useMethods(workshop);
  const [params] = useSearchParams();
  const from = params.get('from') ?? 'plain:wet-rub';
  if (!stored.data || !own.data)
    return (
      <Box p="8" role="status">
        Opening the shelf…
      </Box>
    );
  const [how, of] = from.split(':');
  if (how === 'edit' || how === 'again')
    return <FromTrial key={from} {...{ how, of, from }} shelf={stored.data.shelf} own={own.data} />;
  const start = requestFrom(from, stored.data.shelf, own.data);
  if (!start.ok)
    return (
      <Box as="main" p="6" maxW="44rem">
        <Heading as="h1" size="2xl" mb="2">
          This cannot be planned yet
        </Heading>
        <Text fontSize="1.1rem">
          <Said>{problemWords(start.problem)}</Said>
        </Text>
        <Flex gap="3" mt="4">
          <Button asChild colorPalette="tide" minH="48px">
            <Link to={`/w/${workshop}/shelf`}>Go to the shelf</Link>
          </Button>
          <Button asChild variant="outline" minH="48px">
            <Link to={`/w/${workshop}/new`}>Choose another question</Link>
          </Button>
        </Flex>
      </Box>
    );
  return <Editing key={from} from={from} start={start.value} shelf={stored.data.shelf} own={own.data} />;
}

/** A trial that is there, planned again under another seed, or edited while nothing of it is made. */
function FromTrial({
  how,
  of,
  from,
  shelf,
  own,
}: {
  how: 'edit' | 'again';
  of: string;
  from: string;
  shelf: Shelf;
  own: readonly Method[];
}) {
  const workshop = useWorkshop();
  const found = useStoredPlan(workshop, of);
  const records = useRecords(workshop, of);
  if (found.isPending || records.isPending)
    return (
      <Box p="8" role="status">
        Opening the trial…
      </Box>
    );
  if (!found.data?.ok || !records.data)
    return (
      <Box as="main" p="6" maxW="44rem">
        <Heading as="h1" size="2xl" mb="2">
          This trial is not in this workshop
        </Heading>
        <Button asChild variant="outline" minH="48px">
          <Link to={`/w/${workshop}`}>See all trials</Link>
        </Button>
      </Box>
    );
  const plan = planNow(found.data.value, records.data.records);
  const request = requestOf(plan);
  if (how === 'again')
    return (
      <Editing
        {...{ from, shelf, own }}
        start={{ ...request, name: `${request.name}, again`.slice(0, 80) }}
      />
    );
  if (hasBegun(records.data.records))
    return (
      <Box as="main" p="6" maxW="44rem">
        <Heading as="h1" size="2xl" mb="2">
          Work on this trial has begun
        </Heading>
        <Text fontSize="1.1rem" mb="4">
          What has been made keeps what it was made with. Add patches or levels as a further batch instead.
        </Text>
        <Button asChild colorPalette="tide" minH="48px">
          <Link to={`/w/${workshop}/t/${of}/plan`}>Change this trial</Link>
        </Button>
      </Box>
    );
  return (
    <Editing
      {...{ from, shelf, own }}
      start={request}
      old={{ plan, changes: changesIn(records.data.records).map(c => c.id) }}
    />
  );
}
