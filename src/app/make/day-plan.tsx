import { Box, Button, Flex, Heading, HStack, Text } from '@chakra-ui/react';
import type { Session } from '../../core/calendar/index.ts';
import type { Problem } from '../../core/outcome/index.ts';
import type { Agenda } from '../../core/schedule/index.ts';
import type { TrialPlan, TrialRecord } from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';
import { presentMs } from '../../store/index.ts';
import { asNotice, failure, useNotice } from '../shell/notices.tsx';
import { saveFile } from '../shell/save-file.ts';
import { moment } from '../shell/time.ts';
import { useSessions } from './use-sessions.ts';

interface Props {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly agenda?: Agenda;
  readonly problem?: Problem;
  readonly busy?: number;
  search(): void;
  cancel(): void;
  readonly now: number;
}

/** When hands are needed, stretch by stretch, until the trial is made; and the calendar file of it. */
export function DayPlan({ plan, records, agenda, problem, busy, search, cancel, now }: Props) {
  const tell = useNotice();
  const { sessions, calendarOf } = useSessions(plan, agenda);
  const save = async () => {
    try {
      const made = (await calendarOf())(sessions, records.length, presentMs());
      if (!made.ok) return tell(asNotice(made.problem));
      saveFile(new Blob([made.value], { type: 'text/calendar' }), `${plan.code}-bench.ics`);
      tell({ say: 'The calendar file is in your downloads. Opened again later, it moves the same events.' });
    } catch (error) {
      tell(failure(error));
    }
  };
  return (
    <Box as="section" aria-label="Plan of the work" mt="6">
      <Heading as="h2" size="lg" mb="1">
        When hands are needed
      </Heading>
      {problem && (
        <Box borderLeftWidth="5px" borderColor="warn.fg" bg="warn.subtle" px="4" py="2.5" role="alert">
          <Text fontWeight="700">Not everything fits into the time there is.</Text>
          <Text>{problem.say}</Text>
          {problem.wayOut && <Text>{problem.wayOut}</Text>}
        </Box>
      )}
      {agenda && (
        <>
          <Text mb="2">
            Done <b>{moment(agenda.ends, now)}</b>, with {span(agenda.handsMin)} of work
            {agenda.extras.length > 0 && ` and ${agenda.extras.length} washes`}.{' '}
            {agenda.couldBeBetter < 0.01
              ? 'No plan is shorter or nearer to the best moments.'
              : `At most ${Math.max(1, Math.round(100 * agenda.couldBeBetter))} % could be gained.`}
          </Text>
          {sessions.slice(0, 8).map(s => (
            <SessionRow key={s.uid} session={s} now={now} />
          ))}
          {sessions.length > 8 && <Text color="fg.muted">and {sessions.length - 8} more, later.</Text>}
        </>
      )}
      <HStack mt="3" gap="3" wrap="wrap">
        <Button variant="outline" minH="48px" disabled={!sessions.length} onClick={() => void save()}>
          Save as calendar (ICS)
        </Button>
        {busy === undefined ? (
          <Button variant="outline" minH="48px" onClick={search}>
            Look for a better plan
          </Button>
        ) : (
          <Flex gap="3" align="center" role="status">
            <Text>Looking, {Math.round(100 * busy)} %</Text>
            <Button variant="outline" minH="48px" onClick={cancel}>
              Stop
            </Button>
          </Flex>
        )}
      </HStack>
    </Box>
  );
}

function SessionRow({ session, now }: { session: Session; now: number }) {
  return (
    <Flex borderTopWidth="1px" py="1.5" gap="3" wrap="wrap" align="baseline">
      <Text fontWeight="700" minW="9.5rem">
        {moment(session.from, now)}
      </Text>
      <Text flex="1" minW="12rem">
        {session.what}
        <Text as="span" color="fg.muted">
          {' '}
          · {span((session.to - session.from) / 60_000)}
        </Text>
      </Text>
    </Flex>
  );
}
