import { useState } from 'react';
import { isBlind } from '../../../core/judging/index.ts';
import { SYMPTOMS } from '../../../core/symptoms/index.ts';
import { levelsLine, type Patch, unitOf } from '../../../core/trial/index.ts';
import { usePhotoUrl } from '../../../store/index.ts';
import { AsItShouldBe } from '../../board/as-it-should-be.tsx';
import { Box, Button, Flex, Grid, Heading, Text } from '../../ui/kit.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';
import { Alike, Blind, BlindWays, EyeAndMachine, PairOrder } from './blind.tsx';
import { Closer } from './closer.tsx';
import { GRADES, judgementOf, nextToJudge, photoOf, verdictDraft, withSymptom } from './judge.model.ts';

const VERDICTS = [
  ['keep', 'Keep', 'good as it is'],
  ['fix', 'Fix', 'worth another round'],
  ['scrap', 'Scrap', 'beyond help'],
] as const;

/** Stage "Judge": the patch beside what it should be; verdict, grade and what you see wrong. */
export function JudgeStage() {
  const { plan, records, selected, select } = useTrial();
  const [mode, setMode] = useState<'seeing' | 'blind' | 'pairs'>('seeing');
  if (mode !== 'seeing' || isBlind(records))
    return <Blind mode={mode === 'seeing' ? undefined : mode} onMode={setMode} />;
  const next = nextToJudge(plan, records);
  if (!selected)
    return (
      <Box>
        <Text fontSize="1.15rem" mb="3">
          Judge each {unitOf(plan).one} with your own eyes, beside what it should look like. You wanted it{' '}
          <b>{plan.intent}</b>.
        </Text>
        {next ? (
          <Button size="xl" colorPalette="buoy" onClick={() => select(next.code)}>
            Judge {next.code}
          </Button>
        ) : (
          <Text>Every {unitOf(plan).one} is judged.</Text>
        )}
        <BlindWays onMode={setMode} />
        <PairOrder />
        <Alike />
        <EyeAndMachine />
      </Box>
    );
  return <Judged key={selected.code} patch={selected} next={nextToJudge(plan, records, selected)} />;
}

function Judged({ patch, next }: { patch: Patch; next: Patch | undefined }) {
  const { plan, records, workshop, select } = useTrial();
  const record = useRecord(workshop, plan.id);
  const tell = useNotice();
  const [form, setForm] = useState(() => judgementOf(records, patch.code));
  const [asked, setAsked] = useState(false);
  const url = usePhotoUrl(workshop, plan.id, photoOf(records, patch.code));
  const draft = verdictDraft(patch.code, form);
  const keep = async () => {
    setAsked(true);
    if (!draft || !(await record.add([draft]))) return;
    tell({ say: `${patch.code} is judged: ${draft.verdict}.` });
    if (next) select(next.code);
  };
  return (
    <Box>
      <Heading as="h2" size="lg">
        {patch.code}
      </Heading>
      <Text color="fg.muted" mb="3">
        <Said>{levelsLine(plan, patch)}</Said>
      </Text>
      <Grid templateColumns="1fr 1fr" gap="4" maxW="40rem">
        <Box>
          <Box borderWidth="1px" aspectRatio="1">
            {url ? (
              <img src={url} alt={`${patch.code} as it is`} style={{ width: '100%' }} />
            ) : (
              <Text p="4" color="fg.muted">
                No photo yet. Look at the piece itself, or read a photo first.
              </Text>
            )}
          </Box>
          <Text fontSize="0.95rem">As it is</Text>
        </Box>
        <AsItShouldBe {...{ workshop, plan, records, patch }} />
      </Grid>
      <Flex gap="3" mt="5" wrap="wrap" role="group" aria-label="Verdict">
        {VERDICTS.map(([id, word, why]) => (
          <Button
            key={id}
            size="2xl"
            minH="5rem"
            flex="1"
            minW="8rem"
            flexDirection="column"
            gap="0"
            variant={form.verdict === id ? 'solid' : 'outline'}
            colorPalette="buoy"
            aria-pressed={form.verdict === id}
            onClick={() => setForm({ ...form, verdict: id })}
          >
            {word}
            <Text as="span" fontSize="0.85rem" fontWeight="400">
              {why}
            </Text>
          </Button>
        ))}
      </Flex>
      <Flex gap="2" mt="4" wrap="wrap" role="group" aria-label="Grade" align="center">
        <Text fontWeight="600" w="4.5rem">
          Grade
        </Text>
        {GRADES.map((word, i) => (
          <Button
            key={word}
            minH="48px"
            variant={form.grade === i + 1 ? 'solid' : 'outline'}
            colorPalette="tide"
            aria-pressed={form.grade === i + 1}
            onClick={() => setForm({ ...form, grade: i + 1 })}
          >
            {i + 1} {word}
          </Button>
        ))}
      </Flex>
      <Closer code={patch.code} like={patch.code} />
      <Text fontWeight="600" mt="5" mb="2">
        What do you see wrong?
      </Text>
      <Flex gap="2" wrap="wrap" role="group" aria-label="Symptoms">
        {SYMPTOMS.map(s => {
          const on = form.symptoms.includes(s.id);
          return (
            <Button
              key={s.id}
              size="sm"
              minH="44px"
              variant={on ? 'solid' : 'outline'}
              colorPalette="tide"
              aria-pressed={on}
              onClick={() => setForm(withSymptom(form, s.id))}
            >
              {on ? '✓ ' : ''}
              {s.name}
            </Button>
          );
        })}
      </Flex>
      <Button
        mt="6"
        size="2xl"
        colorPalette="buoy"
        onClick={keep}
        loading={record.busy}
        w={{ base: '100%', md: 'auto' }}
      >
        {next ? `Keep this verdict, on to ${next.code}` : 'Keep this verdict'}
      </Button>
      {asked && !draft && (
        <Text mt="2" color="buoy.fg" role="alert">
          Choose keep, fix or scrap, and a grade.
        </Text>
      )}
    </Box>
  );
}
