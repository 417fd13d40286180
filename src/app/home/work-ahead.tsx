import type { Outcome } from '../../core/outcome/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import type { Trialled } from '../../core/progress/index.ts';
import type { Agenda } from '../../core/schedule/index.ts';
import { Sessions } from '../trial/make/sessions.tsx';
import { Box, Heading, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { moment } from '../ui/time.ts';

/** When hands are needed for all trials that are under way, by one pair of them. */
export function WorkAhead({
  trials,
  found,
  now,
}: {
  trials: readonly Trialled[];
  /** Nothing as long as it is being laid out. */
  found: Outcome<Agenda> | undefined;
  now: number;
}) {
  const plans = trials.map(t => t.plan);
  return (
    <Box as="section" aria-label="Work ahead" mt="8">
      <Heading as="h2" size="lg" color="fg.muted" fontWeight="600" mb="1">
        When hands are needed
      </Heading>
      {!found && (
        <Text color="fg.muted" role="status">
          Laying out the work…
        </Text>
      )}
      {found?.ok && (
        <Text mb="1">
          {trials.length > 1 ? 'All trials together are' : 'It is'} made about{' '}
          <b>{moment(found.value.ends, now)}</b>.
        </Text>
      )}
      {found && !found.ok && (
        <Text role="status">
          Not everything fits into the time there is. <Said>{problemWords(found.problem)}</Said>
        </Text>
      )}
      <Sessions
        plans={plans}
        agenda={found?.ok ? found.value : undefined}
        sequence={trials.reduce((n, t) => n + t.records.length, 0)}
        file="wet-test-bench.ics"
        now={now}
        most={4}
        named={trials.length > 1}
      />
    </Box>
  );
}
