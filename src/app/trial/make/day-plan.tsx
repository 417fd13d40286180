import { useMemo } from 'react';
import type { Problem } from '../../../core/outcome/index.ts';
import type { Trialled } from '../../../core/progress/index.ts';
import { span } from '../../../core/say/index.ts';
import { type Agenda, partOf } from '../../../core/schedule/index.ts';
import type { TrialPlan } from '../../../core/trial/index.ts';
import { Box, Button, Flex, Heading, HStack, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { moment } from '../../ui/time.ts';
import { Sessions } from './sessions.tsx';

interface Props {
  readonly plan: TrialPlan;
  /** All trials of the same hands, this one among them. */
  readonly trials: readonly Trialled[];
  readonly agenda?: Agenda;
  readonly problem?: Problem;
  readonly busy?: number;
  search(): void;
  cancel(): void;
  readonly now: number;
}

/** When hands are needed, stretch by stretch, until the trial is made; and the calendar file of it. */
export function DayPlan({ plan, trials, agenda, problem, busy, search, cancel, now }: Props) {
  const plans = useMemo(() => trials.map(t => t.plan), [trials]);
  const own = useMemo(() => agenda && partOf(agenda, plan.id), [agenda, plan.id]);
  const others = trials.filter(t => t.plan.id !== plan.id);
  const washes = agenda?.extras.filter(e => e.what === 'wash').length ?? 0;
  return (
    <Box as="section" aria-label="Plan of the work" mt="6">
      <Heading as="h2" size="lg" mb="1">
        When hands are needed
      </Heading>
      {problem && (
        <Box borderLeftWidth="5px" borderColor="warn.fg" bg="warn.subtle" px="4" py="2.5" role="alert">
          <Text fontWeight="700">
            {problem.code === 'none-yet'
              ? busy === undefined
                ? 'No plan was found yet.'
                : 'No plan was found yet. Still looking.'
              : 'Not everything fits into the time there is.'}
          </Text>
          <Text>
            <Said>{problem.say}</Said>
          </Text>
          {problem.wayOut && (
            <Text>
              <Said>{problem.wayOut}</Said>
            </Text>
          )}
        </Box>
      )}
      {agenda && own && (
        <>
          <Text mb="2">
            Done <b>{moment(own.ends, now)}</b>, with {span(own.handsMin)} of work
            {washes > 0 && ` and ${washes} washes`}
            {others.length > 0 && `, beside ${others.map(t => `“${t.plan.name}”`).join(' and ')}`}.{' '}
            {agenda.couldBeBetter < 0.01
              ? 'No plan is shorter or nearer to the best moments.'
              : `At most ${Math.max(1, Math.round(100 * agenda.couldBeBetter))} % could be gained.`}
          </Text>
          <Sessions
            {...{ plans, agenda, now }}
            sequence={trials.reduce((n, t) => n + t.records.length, 0)}
            file={others.length ? 'wet-test-bench.ics' : `${plan.code}-bench.ics`}
            most={8}
            named={others.length > 0}
          />
        </>
      )}
      <HStack mt="3" gap="3" wrap="wrap">
        {busy === undefined ? (
          <Button variant="outline" minH="48px" onClick={search}>
            {problem ? 'Look on' : 'Look for a better plan'}
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
