import { useEffect, useState } from 'react';
import { CAUSES } from '../../core/diagnosis/index.ts';
import { chanceFrom } from '../../core/random/index.ts';
import { many, within, write } from '../../core/say/index.ts';
import { MISHAP_CAUSES } from '../../core/simulator/index.ts';
import { SYMPTOM_IDS, SYMPTOMS } from '../../core/symptoms/index.ts';
import { answersFor, FRESH_EYE, type Learning, learnt, nextCause } from '../../core/training/index.ts';
import { presentMs, workshopOf } from '../../store/index.ts';
import { keepLearning, learningIn } from '../../store/training.ts';
import { failOnPurpose, type TrainingPiece } from '../../workers/index.ts';
import { Box, Button, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, notSaved, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';

const SESSION_MS = 10 * 60_000;
const symptomName = (id: string) => SYMPTOMS.find(s => s.id === id)?.name ?? id;
const causeOf = (id: string) => CAUSES.find(c => c.id === id)!;

interface Round {
  readonly piece: TrainingPiece;
  readonly symptoms: readonly string[];
  readonly causes: readonly string[];
}

/** Pieces that failed on purpose: what is seen on it, what it was, and the tell-tale; what was missed comes back sooner. */
export function TrainPage() {
  const workshop = workshopOf(useWorkshop());
  const tell = useNotice();
  const [eye, setEye] = useState<Learning>();
  const [round, setRound] = useState<Round>();
  const [symptom, setSymptom] = useState<string>();
  const [cause, setCause] = useState<string>();
  const [began] = useState(presentMs);
  const begin = async (from: Learning, last?: string) => {
    const chance = chanceFrom(presentMs() + from.rounds);
    const next = nextCause(from, MISHAP_CAUSES, last, chance);
    setRound(undefined);
    setSymptom(undefined);
    setCause(undefined);
    try {
      const piece = await failOnPurpose(next, chance.whole(0, 1e6));
      setRound({
        piece,
        symptoms: answersFor(piece.symptom, SYMPTOM_IDS, chance),
        causes: answersFor(piece.cause, MISHAP_CAUSES, chance),
      });
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each workshop
  useEffect(() => {
    learningIn(workshop)
      .catch(() => FRESH_EYE)
      .then(found => {
        setEye(found);
        void begin(found);
      });
  }, [workshop]);
  const name = (answer: string) => {
    if (!round || !eye || !symptom) return;
    const { piece } = round;
    setCause(answer);
    const now = learnt(eye, piece, { cause: answer === piece.cause, symptom: symptom === piece.symptom });
    setEye(now);
    keepLearning(workshop, now).catch(error => tell(notSaved(error)));
  };
  const isOver = presentMs() - began > SESSION_MS;
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="5" pb="24" maxW="64rem">
      <Heading as="h1" size="2xl">
        Train your eye
      </Heading>
      <Text mb="3">
        Simulated pieces that failed on purpose. Say what you see, then what it was.{' '}
        {eye && eye.rounds > 0 && <Score eye={eye} />}
      </Text>
      {!round ? (
        <Text role="status">Spoiling a piece for you…</Text>
      ) : (
        <Grid templateColumns={{ base: '1fr', md: 'minmax(0, 26rem) 1fr' }} gap="5">
          <Box>
            <Picture of={cause ? round.piece.drawn : round.piece.look} isDrawn={cause !== undefined} />
            <Text mt="1">
              {round.piece.method} on {within(round.piece.ground)} · simulated
              {cause && '; what did not land is hatched'}
            </Text>
          </Box>
          <Box>
            {!symptom && (
              <Answers title="What do you see?" all={round.symptoms} say={symptomName} onPick={setSymptom} />
            )}
            {symptom && !cause && (
              <Answers
                title="What was the cause?"
                all={round.causes}
                say={id => causeOf(id).name}
                onPick={name}
              />
            )}
            {symptom && cause && (
              <Box role="status">
                <Verdict piece={round.piece} symptom={symptom} cause={cause} />
                {isOver && (
                  <Text mt="3" fontWeight="700">
                    Ten minutes are over: enough for today. What you missed comes back first.
                  </Text>
                )}
                <Button
                  mt="4"
                  size="xl"
                  colorPalette="buoy"
                  variant={isOver ? 'outline' : 'solid'}
                  onClick={() => eye && void begin(eye, round.piece.cause)}
                >
                  Next piece
                </Button>
              </Box>
            )}
          </Box>
        </Grid>
      )}
    </Box>
  );
}

function Score({ eye }: { eye: Learning }) {
  const told = Object.entries(eye.tally).map(([id, { right, of }]) => `${symptomName(id)} ${right} of ${of}`);
  return (
    <>
      So far {write(many(eye.rounds, 'piece'))}; named rightly: {told.join(', ')}.
    </>
  );
}

function Picture({ of, isDrawn }: { of: Blob; isDrawn: boolean }) {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    const made = URL.createObjectURL(of);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [of]);
  return (
    <Box borderWidth="1px" aspectRatio="1">
      {url && (
        <img
          src={url}
          alt={isDrawn ? 'The failed piece, with what did not land hatched' : 'A failed piece'}
          style={{ width: '100%' }}
        />
      )}
    </Box>
  );
}

function Answers({
  title,
  all,
  say,
  onPick,
}: {
  title: string;
  all: readonly string[];
  say: (id: string) => string;
  onPick: (id: string) => void;
}) {
  return (
    <Box role="group" aria-label={title}>
      <Heading as="h2" size="xl" mb="3">
        {title}
      </Heading>
      {all.map(id => (
        <HStack key={id} mb="2">
          <Button
            size="xl"
            variant="outline"
            h="auto"
            minH="56px"
            py="2"
            whiteSpace="normal"
            textAlign="left"
            onClick={() => onPick(id)}
          >
            {say(id)}
          </Button>
        </HStack>
      ))}
    </Box>
  );
}

function Verdict({ piece, symptom, cause }: { piece: TrainingPiece; symptom: string; cause: string }) {
  const was = causeOf(piece.cause);
  const isRight = cause === piece.cause;
  return (
    <Box>
      <Heading as="h2" size="xl">
        {isRight ? 'Yes: ' : 'It was: '}
        {was.name}
      </Heading>
      {!isRight && <Text mt="1">You said: {causeOf(cause).name}.</Text>}
      {symptom !== piece.symptom && (
        <Text mt="1">
          To see was: {within(symptomName(piece.symptom))}, not {within(symptomName(symptom))}.
        </Text>
      )}
      <Text mt="3">
        <b>The tell-tale:</b> {was.check}
      </Text>
      {was.evidence
        .filter(e => e.weight > 0 && !e.signal.startsWith('symptom:'))
        .slice(0, 3)
        .map(e => (
          <Text key={write(e.say)} mt="1">
            · <Said>{e.say}</Said>
          </Text>
        ))}
      <Text mt="3">
        <b>Next time:</b> <Said>{was.prevent}</Said>
      </Text>
    </Box>
  );
}
