import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import type { Outcome } from '../../core/outcome/index.ts';
import { patchStatus, progressOf, type Trialled } from '../../core/progress/index.ts';
import { span, within } from '../../core/say/index.ts';
import type { Action, Agenda } from '../../core/schedule/index.ts';
import type { TrialSummary } from '../../core/summary/index.ts';
import { groupsBy } from '../ui/groups.ts';
import { Box, Button, Grid, Heading, Text } from '../ui/kit.tsx';
import { useSettings } from '../ui/settings.tsx';
import { moment } from '../ui/time.ts';
import { useLessons } from '../workshop/use-known.ts';
import { useNext } from '../workshop/use-next.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { WorkAhead } from './work-ahead.tsx';

/** After what needs hands. */
const DryingLine = lazy(async () => ({
  default: (await import('../trial/make/drying-line.tsx')).DryingLine,
}));

/** A trial that is under way, with what it alone would need next. */
export interface Running extends Trialled {
  readonly action: Action;
}

/** What needs hands before anything else, when they are needed next, and what dries. */
export function Hands({
  known,
  running,
  work,
  now,
}: {
  known: readonly TrialSummary[];
  running: readonly Running[];
  /** The plan of the work on all of them; nothing as long as it is being laid out. */
  work: Outcome<Agenda> | undefined;
  now: number;
}) {
  const workshop = useWorkshop();
  const lessons = useLessons(workshop);
  const { settings } = useSettings();
  const ahead = running.filter(r => r.action.kind !== 'finished');
  const { trial, action } = useNext(workshop, now);
  const doing = trial && action.kind === 'do' ? { plan: trial, action } : undefined;
  const toRead = known.find(k => k.standing === 'to read');
  const fresh = known.find(k => k.standing === 'planned');
  const waiting = running
    .flatMap(r => {
      const progress = progressOf(r.plan, r.records);
      return progress.lines.map(l => ({
        plan: r.plan,
        patch: l.patch,
        s: patchStatus(l, progress.airs, now),
      }));
    })
    .flatMap(w =>
      w.s.window && w.s.last && w.s.next && now < w.s.window.aim
        ? [{ ...w, until: w.s.window.aim, last: w.s.last, next: w.s.next }]
        : [],
    );
  const groups = groupsBy(
    waiting,
    w => `${w.plan.id} ${w.last.step.id} ${Math.round(w.until / 900_000)}`,
  ).sort((a, b) => a[0].until - b[0].until);
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,6fr) minmax(0,5fr)' }}
      gap={{ base: '7', lg: '12' }}
    >
      <Box>
        <Heading as="h1" size="lg" color="fg.muted" fontWeight="600" mb="2">
          Needs hands now
        </Heading>
        {doing ? (
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
        ) : toRead ? (
          <Box borderLeftWidth="6px" borderColor="buoy.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="1">
              Photograph and read
            </Text>
            <Text mb="4">{toRead.name}: every patch is done and dry.</Text>
            <Button asChild size="2xl" colorPalette="buoy">
              <Link to={`/w/${workshop}/t/${toRead.id}/read`}>Read the patches</Link>
            </Button>
          </Box>
        ) : groups[0] ? (
          <Box borderLeftWidth="6px" borderColor="tide.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="1">
              Nothing. Let it dry.
            </Text>
            <Text fontSize="1.15rem" mb="4">
              Next at <b>{moment(groups[0][0].until, now)}</b>, in {span((groups[0][0].until - now) / 60_000)}
              : {within(groups[0][0].next.step.action)}, {groups[0][0].patch.code}.
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
                <Link to={`/w/${workshop}/t/${fresh.id}/${fresh.printed ? 'make' : 'print'}`}>
                  Meanwhile, {fresh.printed ? 'begin' : 'print'} “{fresh.name}”
                </Link>
              </Button>
            )}
          </Box>
        ) : fresh ? (
          <Box borderLeftWidth="6px" borderColor="buoy.solid" pl="4">
            <Text fontFamily="heading" fontWeight="700" fontSize="2.4rem" lineHeight="1.1" mb="3">
              {fresh.printed ? 'Set up the bench' : 'Print the sheets'} for “{fresh.name}”
            </Text>
            <Button asChild size="2xl" colorPalette="buoy">
              <Link to={`/w/${workshop}/t/${fresh.id}/${fresh.printed ? 'make' : 'print'}`}>
                {fresh.printed ? 'Make it' : 'Print'}
              </Link>
            </Button>
          </Box>
        ) : (
          <Text fontSize="1.3rem">Nothing. Every trial is finished and read.</Text>
        )}
        {ahead.length > 0 && <WorkAhead trials={ahead} found={work} now={now} />}
      </Box>
      <Box>
        <Heading as="h2" size="lg" color="fg.muted" fontWeight="600" mb="2">
          Drying
        </Heading>
        <Suspense>
          <DryingLine trials={running} {...{ workshop, now, lessons }} sittings={settings.working.sittings} />
        </Suspense>
      </Box>
    </Grid>
  );
}

function due(action: Action & { kind: 'do' }, now: number): string {
  const w = action.status.window;
  if (!w) return action.why;
  if (action.status.phase === 'overdue') return `Overdue: its window closed at ${moment(w.closes, now)}.`;
  if (action.status.patient) return `Its time was ${moment(w.aim, now)}; later is as good.`;
  return `Its time was ${moment(w.aim, now)}; the window closes at ${moment(w.closes, now)}.`;
}
