import { Box, Button, Flex, Heading, Text } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { rehearsalWords } from '../../core/findings/index.ts';
import { Cancelled } from '../../core/outcome/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { rehearseInWorker } from '../../workers/index.ts';
import { failure, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Said } from '../ui/settings.tsx';

/** What boards, strips and loads share, as a share of the scatter between patches made alike: a stated start. */
const SHARED = 0.6;
/** Share of patches that do not work: a stated start. */
const FAILS = 0.05;

/** The promise of a plan, by playing it through with made-up results under the rule that will judge it. */
export function RehearsalPanel({ plan }: { plan: TrialPlan }) {
  const tell = useNotice();
  const [lead, setLead] = useState(8);
  const [share, setShare] = useState<number>();
  const [found, setFound] = useState<{ readonly of: TrialPlan; readonly words: readonly string[] }>();
  const abort = useRef<AbortController>(undefined);
  useEffect(() => () => abort.current?.abort(), []);
  const start = async () => {
    abort.current = new AbortController();
    setShare(0);
    try {
      const ask = { lead, scatter: plan.noise, shared: SHARED * plan.noise, fails: FAILS };
      const done = await rehearseInWorker(plan, ask, setShare, abort.current.signal);
      setFound({ of: plan, words: rehearsalWords(plan, done) });
    } catch (error) {
      if (!(error instanceof Cancelled)) tell(failure(error));
    } finally {
      setShare(undefined);
    }
  };
  const words = found?.of === plan ? found.words : undefined;
  return (
    <Box as="section" aria-label="Rehearse it" mt="5">
      <Heading as="h3" size="md" mb="1">
        Rehearse it
      </Heading>
      <Text color="fg.muted" mb="2">
        Made-up results on these very patches, judged by the rule that will judge the trial: patches made
        alike differ by {plan.noise} points, what a board or a strip shares by{' '}
        {(SHARED * plan.noise).toFixed(1)}, one in twenty fails.
      </Text>
      <Flex gap="3" align="end" wrap="wrap">
        <Box w="11rem">
          <NumberChoice
            label="Really better by, points"
            value={lead}
            factor={1}
            step={1}
            onChange={setLead}
          />
        </Box>
        {share === undefined ? (
          <Button
            variant="outline"
            minH="44px"
            disabled={!(lead > 0 && lead <= 100)}
            onClick={() => void start()}
          >
            {words ? 'Rehearse again' : 'Rehearse'}
          </Button>
        ) : (
          <>
            <Text role="status">Rehearsing, {Math.round(100 * share)} %</Text>
            <Button variant="outline" minH="44px" onClick={() => abort.current?.abort()}>
              Stop
            </Button>
          </>
        )}
      </Flex>
      {words?.map(line => (
        <Text key={line} borderTopWidth="1px" py="1.5" mt="2">
          <Said>{line}</Said>
        </Text>
      ))}
    </Box>
  );
}
