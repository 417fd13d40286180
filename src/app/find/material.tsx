import { Table } from '@chakra-ui/react';
import { Link } from 'react-router';
import { materialStory } from '../../core/find/index.ts';
import { many, write } from '../../core/say/index.ts';
import type { TrialSummary } from '../../core/summary/index.ts';
import { Box, Heading, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { dayOf } from '../ui/time.ts';
import { useWorkshop } from '../workshop/workshop.ts';

/** One jar or paper: where it was used, how it did there, and what its drying was learnt from. */
export function Material({ name, trials }: { name: string; trials: readonly TrialSummary[] }) {
  const workshop = useWorkshop();
  const story = materialStory(trials, name);
  return (
    <Box as="section" aria-label={name} mt="5" p="4" borderWidth="2px" borderColor="tide.solid">
      <Heading as="h2" size="xl">
        <Said>{name}</Said>
      </Heading>
      <Text mt="1">
        {story.trials.length === 0
          ? 'It was not used in a trial yet.'
          : `${story.patches} patches in ${write(many(story.trials.length, 'trial'))}${story.landed === null ? '' : `, ${story.landed.toFixed(0)} % landed in the mean of those that worked`}${story.failed ? `, ${story.failed} failed` : ''}${story.judged ? `, ${story.kept} of ${story.judged} judged were kept` : ''}.`}{' '}
        {story.dryingSeen > 0 &&
          `How long it dries was learnt from ${write(many(story.dryingSeen, 'answer'))} at the bench.`}
      </Text>
      {story.trials.length > 0 && (
        <Table.Root size="sm" mt="2">
          <Table.Header>
            <Table.Row bg="transparent">
              {['Trial', 'Begun', 'Patches', 'Landed', 'Kept'].map(head => (
                <Table.ColumnHeader key={head} ps="0">
                  {head}
                </Table.ColumnHeader>
              ))}
            </Table.Row>
          </Table.Header>
          <Table.Body>
            {story.trials.map(t => (
              <Table.Row key={t.id} bg="transparent">
                <Table.Cell ps="0">
                  <Link to={`/w/${workshop}/t/${t.id}`} style={{ textDecoration: 'underline' }}>
                    {t.name}
                  </Link>
                </Table.Cell>
                <Table.Cell ps="0">{dayOf(Date.parse(t.at))}</Table.Cell>
                <Table.Cell ps="0">{t.patches}</Table.Cell>
                <Table.Cell ps="0">{t.landed === null ? '–' : `${t.landed.toFixed(0)} %`}</Table.Cell>
                <Table.Cell ps="0">{t.judged ? `${t.kept} of ${t.judged}` : '–'}</Table.Cell>
              </Table.Row>
            ))}
          </Table.Body>
        </Table.Root>
      )}
    </Box>
  );
}
