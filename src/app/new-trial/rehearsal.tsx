import { useEffect, useRef, useState } from 'react';
import { rehearsalWords, scatterWords } from '../../core/findings/index.ts';
import { Cancelled } from '../../core/outcome/index.ts';
import { type Words, write } from '../../core/say/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { rehearseInWorker, rehearseOthersInWorker } from '../../workers/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { didNotWork, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { Told } from '../ui/told.tsx';

/** What boards, strips and loads share, as a share of the scatter between patches made alike: a stated start. */
const SHARED = 0.6;

/** A plan is rehearsed as soon as nobody has changed it for so long, ms. */
const QUIET_MS = 900;
/** Beyond so many runs of patches and factors it is rehearsed when asked to. */
const MOST_BY_ITSELF = 160;

/** The promise of a plan, by playing it through with made-up results under the rule that will judge it. */
export function RehearsalPanel({
  plan,
  fails,
  basis,
}: {
  plan: TrialPlan;
  /** Share of patches of this method that did not work in the workshop so far. */
  fails: number;
  /** What the scatter that is assumed rests on. */
  basis: string;
}) {
  const tell = useNotice();
  const [lead, setLead] = useState(8);
  const [share, setShare] = useState<number>();
  const [found, setFound] = useState<{ readonly of: string; readonly words: readonly Words[] }>();
  const [stopped, setStopped] = useState('');
  const abort = useRef<AbortController>(undefined);
  // What the promise rests on; a patch that is moved changes nothing of it.
  const of = JSON.stringify([
    lead,
    fails,
    plan.noise,
    plan.design,
    plan.factors,
    plan.patches.map(p => [p.levels, p.board, p.strip, p.group, p.repeat]),
  ]);
  const start = async () => {
    abort.current?.abort();
    const now = new AbortController();
    abort.current = now;
    setStopped('');
    setShare(0);
    try {
      const ask = { lead, scatter: plan.noise, shared: SHARED * plan.noise, fails };
      const done = await rehearseInWorker(plan, ask, setShare, now.signal);
      const words = rehearsalWords(plan, done);
      setFound({ of, words });
      const said = scatterWords(plan, await rehearseOthersInWorker(plan, ask, setShare, now.signal));
      if (said) setFound({ of, words: [...words, said] });
    } catch (error) {
      if (!(error instanceof Cancelled)) tell(didNotWork(error));
    } finally {
      if (abort.current === now) setShare(undefined);
    }
  };
  const isFit = lead > 0 && lead <= 100;
  const bySelf = isFit && plan.patches.length * plan.factors.length <= MOST_BY_ITSELF;
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever what it rests on has been left alone
  useEffect(() => {
    if (!bySelf) return;
    const timer = setTimeout(() => void start(), QUIET_MS);
    return () => {
      clearTimeout(timer);
      abort.current?.abort();
    };
  }, [of, bySelf]);
  useEffect(() => () => abort.current?.abort(), []);
  const isNow = found?.of === of;
  return (
    <Box as="section" aria-label="Rehearse it" mb="3">
      {found?.words.map(line => (
        <Text key={write(line)} borderTopWidth="1px" py="1.5" opacity={isNow ? 1 : 0.55}>
          <Told>{line}</Told>
        </Text>
      ))}
      {!found && share === undefined && !isFit && <Text>Write how much better one may really be.</Text>}
      <Flex gap="3" align="end" wrap="wrap" borderTopWidth="1px" pt="2">
        <Box w="11rem">
          <NumberChoice
            label="Really better by, points"
            value={lead}
            factor={1}
            step={1}
            limit="lead"
            onChange={setLead}
          />
        </Box>
        {share === undefined ? (
          <Button variant="outline" minH="44px" disabled={!isFit} onClick={() => void start()}>
            {found ? 'Rehearse again' : 'Rehearse'}
          </Button>
        ) : (
          <>
            <Text role="status">Rehearsing, {Math.round(100 * share)} %</Text>
            <Button
              variant="outline"
              minH="44px"
              onClick={() => {
                abort.current?.abort();
                setStopped(of);
              }}
            >
              Stop
            </Button>
          </>
        )}
      </Flex>
      {stopped === of && !isNow && <Text mt="1">Stopped: nothing is promised yet.</Text>}
      <Text color="fg.muted" fontSize="0.95rem" mt="1">
        Rehearsed with made-up results on these very patches, by the rule that will judge the trial: patches
        made alike differ by {plan.noise} points ({basis}), what a board or a strip shares by{' '}
        {(SHARED * plan.noise).toFixed(1)}, {Math.round(100 * fails)} in 100 fail.
      </Text>
    </Box>
  );
}
