import { useMemo } from 'react';
import { type Session, sessionsOf } from '../../../core/calendar/index.ts';
import { span } from '../../../core/say/index.ts';
import type { Agenda } from '../../../core/schedule/index.ts';
import type { TrialPlan } from '../../../core/trial/index.ts';
import { presentMs } from '../../../store/index.ts';
import { Button, Flex, Text } from '../../ui/kit.tsx';
import { asNotice, didNotWork, useNotice } from '../../ui/notices.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { moment } from '../../ui/time.ts';

/** The stretches of work of an agenda, and a calendar file of them that moves the same events when it is opened again. */
export function Sessions({
  plans,
  agenda,
  sequence,
  file,
  now,
  most,
  named = false,
}: {
  plans: readonly TrialPlan[];
  agenda: Agenda | undefined;
  /** Grows with everything that happens. */
  sequence: number;
  file: string;
  now: number;
  most: number;
  /** With the trials' names, where there are several. */
  named?: boolean;
}) {
  const tell = useNotice();
  const sessions = useMemo<readonly Session[]>(
    () => (agenda ? sessionsOf(plans, agenda) : []),
    [plans, agenda],
  );
  const save = async () => {
    try {
      const { calendarOf } = await import('../../../core/calendar/write.ts');
      const made = calendarOf(sessions, sequence, presentMs());
      if (!made.ok) return tell(asNotice(made.problem));
      saveFile(new Blob([made.value], { type: 'text/calendar' }), file);
      tell({ say: 'The calendar file is in your downloads. Opened again later, it moves the same events.' });
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  return (
    <>
      {sessions.slice(0, most).map(session => (
        <Flex key={session.uid} borderTopWidth="1px" py="1.5" gap="3" wrap="wrap" align="baseline">
          <Text fontWeight="700" minW={{ base: '5.6rem', md: '11.5rem' }}>
            {moment(session.from, now)}
          </Text>
          <Text flex="1" minW={{ base: '9rem', md: '12rem' }}>
            {named ? session.title : session.what}
            <Text as="span" color="fg.muted">
              {' '}
              · {span((session.to - session.from) / 60_000)}
            </Text>
          </Text>
        </Flex>
      ))}
      {sessions.length > most && <Text color="fg.muted">and {sessions.length - most} more, later.</Text>}
      <Button
        variant="outline"
        minH="48px"
        mt="3"
        mr="3"
        disabled={!sessions.length}
        onClick={() => void save()}
      >
        Save as calendar (ICS)
      </Button>
    </>
  );
}
