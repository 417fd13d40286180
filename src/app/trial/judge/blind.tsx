import { Field, Input } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import {
  agreement,
  disagreements,
  gradedAlike,
  isBlind,
  pairsIn,
  rankingOf,
  soFar,
} from '../../../core/judging/index.ts';
import { levelsLine } from '../../../core/trial/index.ts';
import { usePhotoUrl } from '../../../store/index.ts';
import { Box, Button, Flex, Grid, Heading, HStack, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';
import { Closer } from './closer.tsx';
import {
  type Better,
  betterOfKey,
  blindState,
  GRADES,
  gradeDraft,
  gradeOfKey,
  judgeable,
  judgeNamed,
  pairDraft,
  pairState,
  photoOf,
} from './judge.model.ts';

type Mode = 'blind' | 'pairs';

/** The two ways of judging without knowing which patch is which. */
export function BlindWays({ onMode }: { onMode: (mode: Mode) => void }) {
  return (
    <Box mt="6">
      <Heading as="h2" size="lg">
        Or without knowing which is which
      </Heading>
      <Text mb="2">
        Eyes see what they hope to see. Judged blind, no code and no level is shown, in an order of its own.
      </Text>
      <HStack wrap="wrap" gap="3">
        <Button minH="48px" variant="outline" onClick={() => onMode('blind')}>
          Grade them blind
        </Button>
        <Button minH="48px" variant="outline" onClick={() => onMode('pairs')}>
          Compare them in pairs
        </Button>
      </HStack>
    </Box>
  );
}

/** Judging blind: one at a time or in pairs, and what came of it once it is asked for. */
export function Blind({ mode, onMode }: { mode: Mode | undefined; onMode: (mode: 'seeing' | Mode) => void }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const [judge, setJudge] = useState('me');
  const who = judgeNamed(judge);
  const codes = judgeable(plan, records);
  const show = async () => {
    if (isBlind(records)) await record.add([{ kind: 'unblind', patch: null, judge: who }]);
    onMode('seeing');
  };
  return (
    <Box>
      <HStack gap="4" mb="3" wrap="wrap" align="end">
        <Field.Root w="14rem">
          <Field.Label>Who is judging</Field.Label>
          <Input value={judge} maxLength={40} onChange={e => setJudge(e.target.value)} />
        </Field.Root>
        <Button minH="44px" variant="outline" onClick={() => void show()}>
          Show which is which
        </Button>
        {(['blind', 'pairs'] as const)
          .filter(m => m !== mode)
          .map(m => (
            <Button key={m} minH="44px" variant="ghost" onClick={() => onMode(m)}>
              {m === 'blind' ? 'Grade them blind' : 'Compare them in pairs'}
            </Button>
          ))}
      </HStack>
      {codes.length < 2 ? (
        <Text fontSize="1.15rem">
          Read photos of at least two patches first: they are judged by their photos.
        </Text>
      ) : mode === 'pairs' ? (
        <Pairs judge={who} />
      ) : mode === 'blind' ? (
        <OneByOne judge={who} />
      ) : (
        <Text fontSize="1.15rem">These patches are being judged blind. Go on, or show which is which.</Text>
      )}
    </Box>
  );
}

/** Keys do what the buttons do, unless somebody is writing. */
function useKeys(onKey: (key: string) => void) {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
      onKey(e.key);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
}

/** One patch after another, graded 1 to 5 by a press or a key; keep, fix and scrap follow from the grade. */
function OneByOne({ judge }: { judge: string }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const { order, code, number } = blindState(plan, records, judge);
  const url = usePhotoUrl(workshop, plan.id, code && photoOf(records, code));
  const give = (grade: number | undefined) => {
    if (code && grade) void record.add([gradeDraft(code, grade, judge)]);
  };
  useKeys(key => give(gradeOfKey(key)));
  if (!code)
    return (
      <Text fontSize="1.15rem">
        All {order.length} are graded by {judge}. Let somebody else grade them too, or show which is which.
      </Text>
    );
  return (
    <Box>
      <Heading as="h2" size="lg" mb="2">
        Number {number} of {order.length}
      </Heading>
      <Box maxW="30rem" borderWidth="1px" minH="20rem">
        {url && <img src={url} alt={`Number ${number}`} style={{ width: '100%' }} />}
      </Box>
      <Text mt="2">Would you use it? Coverage, edges, haze, tone: all together.</Text>
      <Flex gap="2" mt="2" wrap="wrap">
        {GRADES.map((word, i) => (
          <Button key={word} size="xl" variant="outline" disabled={record.busy} onClick={() => give(i + 1)}>
            {i + 1} {word}
          </Button>
        ))}
      </Flex>
      <Text mt="2" color="fg.muted">
        Keys 1 to 5 do the same. From 4 on it counts as kept, 3 as to be fixed, less as scrapped.
      </Text>
      {/* Pictures of the same materials for all: of its own they would say which it is. */}
      <Closer key={code} code={code} like={judgeable(plan, records)[0]} hands={false} />
    </Box>
  );
}

/** Two patches beside each other until the order is settled. */
function Pairs({ judge }: { judge: string }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const { codes, pairs, next } = pairState(plan, records, judge);
  const left = usePhotoUrl(workshop, plan.id, next && photoOf(records, next.a));
  const right = usePhotoUrl(workshop, plan.id, next && photoOf(records, next.b));
  const say = (better: Better | undefined) => {
    if (next && better) void record.add([pairDraft(next, better, judge)]);
  };
  useKeys(key => say(betterOfKey(key)));
  return (
    <Box>
      {next ? (
        <>
          <Heading as="h2" size="lg" mb="2">
            Which is better?
          </Heading>
          <Grid templateColumns="1fr 1fr" gap="4">
            {(
              [
                ['this', 'The left one', left],
                ['other', 'The right one', right],
              ] as const
            ).map(([better, words, url]) => (
              <Box key={better}>
                <Box borderWidth="1px" minH="12rem">
                  {url && <img src={url} alt={words} style={{ width: '100%' }} />}
                </Box>
                <Button
                  mt="2"
                  size="2xl"
                  w="100%"
                  colorPalette="buoy"
                  disabled={record.busy}
                  onClick={() => say(better)}
                >
                  {words}
                </Button>
              </Box>
            ))}
          </Grid>
          <Button mt="3" size="xl" variant="outline" disabled={record.busy} onClick={() => say('neither')}>
            Neither
          </Button>
          <Text mt="2" color="fg.muted">
            {soFar(codes, pairs, judge)} Keys: left, right, down.
          </Text>
        </>
      ) : (
        <Text fontSize="1.15rem" fontWeight="700">
          {soFar(codes, pairs, judge)} Show which is which.
        </Text>
      )}
    </Box>
  );
}

/** The order that pairs gave, and how well judges agree: for when it is known which is which. */
export function PairOrder() {
  const { plan, records, select } = useTrial();
  const pairs = pairsIn(records);
  if (!pairs.length || isBlind(records)) return null;
  const codes = plan.patches.map(p => p.code).filter(c => pairs.some(p => p.a === c || p.b === c));
  const { order } = rankingOf(codes, pairs);
  const [self, others] = [agreement(pairs, 'self'), agreement(pairs, 'others')];
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="1">
        The order by pairs
      </Heading>
      {order.map(({ code }, i) => (
        <Flex key={code} gap="3" borderTopWidth="1px" align="center">
          <Text w="2rem" fontWeight="700">
            {i + 1}.
          </Text>
          <Button minH="44px" variant="ghost" onClick={() => select(code)}>
            {code}
          </Button>
          <Text>
            <Said>{levelsLine(plan, plan.patches.find(p => p.code === code)!)}</Said>
          </Text>
        </Flex>
      ))}
      {[self, others]
        .filter(a => a.pairs > 0)
        .map(a => (
          <Text key={a.words} mt="2">
            {a.words}
            {a.kappa !== undefined && ` Weighted kappa ${a.kappa.toFixed(2)}.`}
          </Text>
        ))}
    </Box>
  );
}

/** How alike judges grade, where several did: for when it is known which is which. */
export function Alike() {
  const { records } = useTrial();
  const found = isBlind(records) ? undefined : gradedAlike(records);
  return found ? (
    <Text mt="4">
      {found.words} Intraclass correlation {found.icc.toFixed(2)}.
    </Text>
  ) : null;
}

/** Patches of which the eye and the machine say the opposite: one of the two is wrong. */
export function EyeAndMachine() {
  const { plan, records, select } = useTrial();
  const found = disagreements(
    plan.patches.map(p => p.code),
    records,
  );
  if (!found.length) return null;
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="1">
        Eye and machine disagree
      </Heading>
      {found.map(({ code, verdict, landed }) => (
        <Flex key={code} gap="2" align="center" borderTopWidth="1px" wrap="wrap">
          <Button minH="44px" variant="ghost" onClick={() => select(code)}>
            {code}
          </Button>
          <Text>
            {verdict === 'keep' ? 'kept' : 'scrapped'}, and {landed.toFixed(0)} % landed. Which is right?
            Judge it again, or put its reading right.
          </Text>
        </Flex>
      ))}
    </Box>
  );
}
