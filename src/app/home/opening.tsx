import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { problemWords } from '../../core/outcome/index.ts';
import { progressOf, type Trialled } from '../../core/progress/index.ts';
import { endIn, nextAction } from '../../core/schedule/index.ts';
import type { TrialSummary } from '../../core/summary/index.ts';
import {
  type DamagedTrial,
  type ListedTrial,
  StorageError,
  useOpening,
  useOverview,
  useShelf,
  useUnderWay,
  useWorkshopActions,
} from '../../store/index.ts';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { useAttempt } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { SaveAsStored } from '../workshop/save-as-stored.tsx';
import { useNow } from '../workshop/use-now.ts';
import { usePainted } from '../workshop/use-painted.ts';
import { useWorking } from '../workshop/use-working.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { BackupDue } from './backup-due.tsx';
import { Empty } from './empty.tsx';
import { Hands, type Running } from './hands.tsx';
import { ImportTrial } from './import-trial.tsx';
import { TrialRow } from './trial-row.tsx';
import { useWorkAhead } from './use-work-ahead.ts';

/** How many trials are listed at first, and how many more with each press. */
const AT_FIRST = 20;
/** The same each time, so that nothing is laid out anew. */
const NONE: readonly Trialled[] = [];
const MORE = 100;

/** The opening view: what needs hands now, what waits until when, then the trials. */
export function OpeningView() {
  const workshop = useWorkshop();
  const overview = useOverview(workshop);
  const underWay = useUnderWay(workshop);
  const shelf = useShelf(workshop);
  const now = useNow(5000);
  if (overview.isError) return <Closed error={overview.error} />;
  // How the work is laid out follows the tools on the shelf.
  if (overview.isPending || shelf.isPending || !underWay.here) return <Opening />;
  const { trials, damaged } = overview.data;
  const kept = trials.filter(t => !t.removedAt).map(t => t.summary);
  const here = kept.filter(t => !t.archived);
  return (
    <Workshop
      {...{ trials, damaged, here, now }}
      away={kept.filter(t => t.archived)}
      underWay={underWay.trials}
    />
  );
}

function Workshop({
  trials,
  damaged,
  here,
  away,
  underWay,
  now,
}: {
  trials: readonly ListedTrial[];
  damaged: readonly DamagedTrial[];
  here: readonly TrialSummary[];
  /** Those that were put away. */
  away: readonly TrialSummary[];
  underWay: readonly Trialled[];
  now: number;
}) {
  const workshop = useWorkshop();
  const painted = usePainted();
  const working = useWorking(workshop);
  const [most, setMost] = useState(AT_FIRST);
  // To lay out what is under way takes longer than to show which trials there are.
  const laidOut = painted || underWay.length === 0;
  const running: Running[] = laidOut
    ? underWay.map(trial => ({ ...trial, action: nextAction(progressOf(trial.plan, trial.records), now) }))
    : [];
  const work = useWorkAhead(laidOut ? underWay : NONE, working, now);
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="76rem">
      {here.length + away.length === 0 ? (
        <Empty />
      ) : laidOut ? (
        <Hands known={here} {...{ running, work, now }} />
      ) : (
        <Box role="status" minH="16rem">
          Looking at what needs hands…
        </Box>
      )}
      {here.length + away.length > 0 && (
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
          {here.slice(0, most).map(summary => (
            <TrialRow
              key={summary.id}
              summary={summary}
              running={running.find(r => r.plan.id === summary.id)}
              ends={endIn(work, summary.id)}
              now={now}
            />
          ))}
          {here.length > most && (
            <Button variant="outline" minH="44px" mt="3" onClick={() => setMost(n => n + MORE)}>
              Show older trials ({here.length - most} more)
            </Button>
          )}
        </>
      )}
      {away.length > 0 && (
        <Box as="details" mt="9">
          <Box as="summary" cursor="pointer" minH="44px" fontWeight="700" fontSize="1.15rem">
            Put away ({away.length})
          </Box>
          {away.map(summary => (
            <TrialRow key={summary.id} summary={summary} running={undefined} now={now} />
          ))}
        </Box>
      )}
      <BackupDue trials={[...here, ...away]} now={now} />
      {damaged.length > 0 && <Damaged trials={damaged} />}
      <Removed trials={trials} />
    </Box>
  );
}

function Opening() {
  const share = useOpening(useWorkshop());
  return (
    <Box p="8" role="status">
      Opening the workshop…
      {share !== null && ` Looking through the trials once: ${Math.round(share * 100)} %.`}
    </Box>
  );
}

function Closed({ error }: { error: unknown }) {
  const problem =
    error instanceof StorageError
      ? error.problem
      : {
          say: error instanceof Error ? error.message : '',
          wayOut: 'This browser may be blocking storage for this page. Allow it, then load the page again.',
        };
  return (
    <Box as="main" p="6" maxW="44rem">
      <Heading as="h1" size="2xl" mb="2">
        The workshop cannot be opened
      </Heading>
      <Text>
        <Said>{problemWords(problem)}</Said>
      </Text>
    </Box>
  );
}

/** Stored trials that cannot be read: named, kept, and each one press from a file. */
function Damaged({ trials }: { trials: readonly DamagedTrial[] }) {
  const workshop = useWorkshop();
  return (
    <Box as="section" aria-label="Cannot be read" mt="9">
      <Heading as="h2" size="lg" mb="1">
        Cannot be read
      </Heading>
      <Text color="fg.muted" mb="2">
        Nothing of these was deleted. All else works as before.
      </Text>
      {trials.map(({ id, name, why }) => (
        <Flex key={id} py="2" borderTopWidth="1px" gap="3" align="center" wrap="wrap">
          <Box flex="1" minW="14rem">
            <Text fontWeight="700">{name}</Text>
            <Text color="warn.fg">{why}</Text>
          </Box>
          <SaveAsStored workshop={workshop} trial={id} />
        </Flex>
      ))}
    </Box>
  );
}

function Removed({ trials }: { trials: readonly ListedTrial[] }) {
  const { restore, erase } = useWorkshopActions(useWorkshop());
  const attempt = useAttempt();
  const removed = useMemo(() => trials.filter(t => t.removedAt).map(t => t.summary), [trials]);
  if (!removed.length) return null;
  return (
    <Box mt="9">
      <Heading as="h2" size="lg" mb="1">
        Removed trials
      </Heading>
      <Text color="fg.muted" mb="2">
        Kept until you erase them. Erasing cannot be undone: export first what you want to keep.
      </Text>
      {removed.map(({ id, name }) => (
        <Flex key={id} py="2" borderTopWidth="1px" gap="3" align="center" wrap="wrap">
          <Text flex="1">{name}</Text>
          <Button size="sm" minH="40px" variant="outline" onClick={() => void attempt(() => restore(id))}>
            Bring back
          </Button>
          <Button size="sm" minH="40px" variant="outline" onClick={() => void attempt(() => erase(id))}>
            Erase for good
          </Button>
        </Flex>
      ))}
    </Box>
  );
}
