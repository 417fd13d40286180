import { Box, Flex, Text } from '@chakra-ui/react';
import type { AtBench } from '../../core/schedule/index.ts';
import { clock } from '../../core/units/index.ts';
import { moment } from '../ui/time.ts';
import { Unbroken } from '../ui/unbroken.tsx';

const AN_HOUR = 3_600_000;

/** The next two things and what is waiting meanwhile, each with its time. */
export function UpNext({ next, waiting, now }: Pick<AtBench, 'next' | 'waiting'> & { now: number }) {
  const when = (at: number) =>
    at - now < AN_HOUR && at > now ? `in ${clock(at - now)}` : at <= now ? 'then' : moment(at, now);
  const soon = waiting.slice(0, 3);
  return (
    <Flex gap={{ base: '3', md: '8' }} wrap="wrap" mt="3" fontSize={{ base: '1rem', md: '1.1rem' }}>
      {next.length > 0 && (
        <Box as="section" aria-label="After that">
          <Text color="fg.muted">After that</Text>
          {next.map(t => (
            <Text key={`${t.patch}${t.link.step.id}${t.link.round}`}>
              <b>{when(t.from)}</b> {t.link.step.action}, <Unbroken>{t.patch}</Unbroken>
            </Text>
          ))}
        </Box>
      )}
      {waiting.length > 0 && (
        <Box as="section" aria-label="Waiting">
          <Text color="fg.muted">
            Waiting{waiting.length > soon.length ? `, ${waiting.length} in all` : ''}
          </Text>
          {soon.map(w => (
            <Text key={w.patch}>
              <b>{w.aim <= now ? 'due' : when(w.aim)}</b> {w.what}, <Unbroken>{w.patch}</Unbroken>
            </Text>
          ))}
        </Box>
      )}
    </Flex>
  );
}
