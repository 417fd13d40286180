import { Box, Button, chakra, Flex, Grid, Heading, HStack, Text } from '@chakra-ui/react';
import { useRef } from 'react';
import { Link } from 'react-router';
import { type Action, benchOf, forecast, nextAction, patchStatus } from '../../core/schedule/index.ts';
import { readingOf, type TrialPlan, type TrialRecord } from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';
import { type StoredTrial, useAllRecords, useTrials, useWorkshopActions } from '../../store/index.ts';
import { TargetPicture } from '../board/target-picture.tsx';
import { DryingLine } from '../make/drying-line.tsx';
import { asNotice, failure, useNotice } from '../shell/notices.tsx';
import { useSettings } from '../shell/settings.tsx';
import { useWorkshop } from '../shell/shell.tsx';
import { moment, useNow } from '../shell/time.ts';
import { WorkAhead } from './work-ahead.tsx';

const RouterLink = chakra(Link);

interface Running {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly action: Action;
}

/** The opening view: what needs hands now, what waits until when, then the trials. */
export function Home() {
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
    return { plan, records: all, action: nextAction(benchOf(plan, all), now) };
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

function Empty() {
  const workshop = useWorkshop();
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,7fr) minmax(0,4fr)' }}
      gap="12"
      alignItems="center"
    >
      <Box>
        <Heading as="h1" size="4xl" mb="4">
          Make test pieces you can learn from
        </Heading>
        <Text fontSize="1.15rem" mb="3">
          Put a question to your own bench: which medium, how long to wait, which paper. Wet Test lays out a
          board of small patches, prints them mirrored and labelled, keeps the clock while your hands are wet,
          measures every patch from a photo, says what went wrong, and keeps what you learnt as a recipe.
        </Text>
        <Text mb="6" color="fg.muted">
          Here you will see what needs hands now and what is drying until when. Nothing leaves this browser
          unless you export it.
        </Text>
        <HStack gap="3" wrap="wrap">
          <Button asChild size="xl" colorPalette="buoy">
            <Link to={`/w/${workshop}/new`}>Plan your first trial</Link>
          </Button>
          {workshop === 'mine' && (
            <Button asChild size="xl" variant="outline">
              <Link to="/w/demo">Look round the demo workshop</Link>
            </Button>
          )}
          <ImportTrial />
        </HStack>
      </Box>
      <Box maxW="26rem">
        <svg
          viewBox="-1 -1 42 42"
          width="100%"
          role="img"
          aria-label="The test target: solids, tone steps, a boat, falling lines and text"
        >
          <TargetPicture size={40} />
        </svg>
        <Text color="fg.muted" mt="2">
          The test target that goes on every patch. What is missing from it tells what went wrong.
        </Text>
      </Box>
    </Grid>
  );
}

function Hands({ running, now }: { running: readonly Running[]; now: number }) {
  const workshop = useWorkshop();
  const { settings } = useSettings();
  const started = running.filter(r => r.records.some(x => x.kind === 'step'));
  const ahead = started.filter(r => r.action.kind !== 'finished');
  const doing = [...started]
    .filter(r => r.action.kind === 'do')
    .sort((a, b) => closes(a.action) - closes(b.action))[0];
  const toRead = running.filter(
    r => r.action.kind === 'finished' && r.plan.patches.some(p => !readingOf(r.records, p.code)),
  );
  const waiting = running
    .flatMap(r => {
      const bench = benchOf(r.plan, r.records);
      return bench.lines.map(l => ({ plan: r.plan, patch: l.patch, s: patchStatus(l, bench.air, now) }));
    })
    .flatMap(w =>
      w.s.window && w.s.last && w.s.next && now < w.s.window.aim
        ? [{ ...w, until: w.s.window.aim, last: w.s.last, next: w.s.next }]
        : [],
    );
  const groups = [
    ...Map.groupBy(waiting, w => `${w.plan.id} ${w.last.step.id} ${Math.round(w.until / 900_000)}`).values(),
  ].sort((a, b) => a[0].until - b[0].until);
  const fresh = running.find(r => !r.records.some(x => x.kind === 'step'));
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,6fr) minmax(0,5fr)' }}
      gap={{ base: '7', lg: '12' }}
    >
      <Box>
        <Heading as="h1" size="lg" color="fg.muted" fontWeight="600" mb="2">
          Needs hands now
        </Heading>
        {doing && doing.action.kind === 'do' ? (
          <Box borderLeftWidth="6px" borderColor="buoy.solid" pl="4">
            <Text
              fontFamily="heading"
              fontWeight="700"
              fontSize={{ base: '2rem', md: '2.6rem' }}
              lineHeight="1.1"
            >
              {doing.action.link.step.action}
            </Text>
            <Text fontSize="1.2rem" mt="1">
              <b>{doing.action.patch.code}</b> · {doing.plan.name}
            </Text>
            <Text color="fg.muted" mb="4">
              {due(doing.action, now)}
            </Text>
            <Button asChild size="2xl" colorPalette="buoy" w={{ base: '100%', md: 'auto' }}>
              <Link to={`/w/${workshop}/t/${doing.plan.id}/bench`}>Go to the bench</Link>
            </Button>
          </Box>
        ) : toRead[0] ? (
          <Box borderLeftWidth="6px" borderColor="buoy.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="1">
              Photograph and read
            </Text>
            <Text mb="4">{toRead[0].plan.name}: every patch is done and dry.</Text>
            <Button asChild size="2xl" colorPalette="buoy">
              <Link to={`/w/${workshop}/t/${toRead[0].plan.id}/read`}>Read the patches</Link>
            </Button>
          </Box>
        ) : groups[0] ? (
          <Box borderLeftWidth="6px" borderColor="tide.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="1">
              Nothing. Let it dry.
            </Text>
            <Text fontSize="1.15rem" mb="4">
              Next at <b>{moment(groups[0][0].until, now)}</b>, in {span((groups[0][0].until - now) / 60_000)}
              : {groups[0][0].next.step.action.toLowerCase()}, {groups[0][0].patch.code}.
            </Text>
            {fresh && (
              <Button
                asChild
                size="xl"
                variant="outline"
                whiteSpace="normal"
                h="auto"
                py="2.5"
                textAlign="start"
              >
                <Link to={`/w/${workshop}/t/${fresh.plan.id}/print`}>
                  Meanwhile, print “{fresh.plan.name}”
                </Link>
              </Button>
            )}
          </Box>
        ) : fresh ? (
          <Box borderLeftWidth="6px" borderColor="buoy.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="3">
              Print the sheets for “{fresh.plan.name}”
            </Text>
            <Button asChild size="2xl" colorPalette="buoy">
              <Link to={`/w/${workshop}/t/${fresh.plan.id}/print`}>Print</Link>
            </Button>
          </Box>
        ) : (
          <Text fontSize="1.3rem">Nothing. Every trial is finished and read.</Text>
        )}
        {ahead.length > 0 && <WorkAhead trials={ahead} now={now} />}
      </Box>
      <Box>
        <Heading as="h2" size="lg" color="fg.muted" fontWeight="600" mb="2">
          Drying
        </Heading>
        <DryingLine trials={running} {...{ workshop, now }} sittings={settings.working.sittings} />
      </Box>
    </Grid>
  );
}

const closes = (action: Action) =>
  action.kind === 'do' ? (action.status.window?.closes ?? Number.MAX_SAFE_INTEGER) : Number.MAX_SAFE_INTEGER;

function due(action: Action & { kind: 'do' }, now: number): string {
  const w = action.status.window;
  if (!w) return action.why;
  if (action.status.phase === 'overdue') return `Overdue: its window closed at ${moment(w.closes, now)}.`;
  return `Its time was ${moment(w.aim, now)}; the window closes at ${moment(w.closes, now)}.`;
}

function TrialRow({ plan, records, action }: Running) {
  const workshop = useWorkshop();
  const read = plan.patches.filter(p => readingOf(records, p.code)).length;
  const begun = records.some(r => r.kind === 'step');
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

function ImportTrial() {
  const input = useRef<HTMLInputElement>(null);
  const { importTrial } = useWorkshopActions(useWorkshop());
  const tell = useNotice();
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const result = await importTrial(new Uint8Array(await file.arrayBuffer()));
      tell(result.ok ? { say: `“${result.value.name}” was imported.` } : asNotice(result.problem));
    } catch (error) {
      tell(failure(error));
    }
    if (input.current) input.current.value = '';
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        hidden
        data-testid="import-file"
        onChange={e => take(e.target.files?.[0])}
      />
      <Button variant="outline" minH="44px" onClick={() => input.current?.click()}>
        Import a trial (ZIP)
      </Button>
    </>
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
