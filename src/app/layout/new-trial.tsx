import {
  Box,
  Button,
  Field,
  Flex,
  Grid,
  Heading,
  HStack,
  Input,
  NativeSelect,
  Text,
  Textarea,
} from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { type PlanRequest, planTrial, ruleNotes, STARTING_REQUEST } from '../../core/design/index.ts';
import { STARTER_SHELF } from '../../core/shelf/index.ts';
import { INTENTS } from '../../core/trial/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { failure, useNotice } from '../shell/notices.tsx';
import { useSettings } from '../shell/settings.tsx';
import { useWorkshop } from '../shell/shell.tsx';
import { stageMarks } from '../trial/stage-marks.tsx';
import { FactorEditor } from './factor-editor.tsx';
import { PlanSummary } from './plan-summary.tsx';
import { UsualEditor } from './usual-editor.tsx';

const shelf = STARTER_SHELF;

const seedNow = () => Math.floor(Math.random() * 9000) + 1000;

/** Ask and lay out: the question on one side, the board that answers it on the other, live. */
export function NewTrial() {
  const workshop = useWorkshop();
  const navigate = useNavigate();
  const tell = useNotice();
  const { save } = useWorkshopActions(workshop);
  const { settings } = useSettings();
  const [request, setRequest] = useState<PlanRequest>(() => ({ ...STARTING_REQUEST, seed: seedNow() }));
  const [patch, setPatch] = useState<string>();
  const [tried, setTried] = useState(false);
  const identity = useMemo(() => ({ at: new Date().toISOString(), key: Math.random() }), []);
  const result = useMemo(
    () =>
      planTrial({ ...request, name: request.name.trim() || 'Untitled' }, shelf, {
        createdAt: identity.at,
        random: steady(identity.key),
      }),
    [request, identity],
  );
  const notes = ruleNotes(shelf, request.usual, request.factors, request.air);
  const change = (part: Partial<PlanRequest>) => setRequest(old => ({ ...old, ...part }));
  const nameless = tried && !request.name.trim();
  const keep = async () => {
    setTried(true);
    if (!request.name.trim() || !result.ok) return;
    try {
      await save(result.value);
      await navigate(`/w/${workshop}/t/${result.value.id}/print${patch ? `?patch=${patch}` : ''}`);
    } catch (error) {
      tell(failure(error));
    }
  };
  const marks = result.ok
    ? stageMarks('plan', { workshop, plan: result.value, records: [], selected: undefined, select: setPatch })
    : undefined;
  const inch = settings.system === 'imperial' ? 25.4 : 1;
  return (
    <Box px={{ base: '4', md: '6' }} pt="4" pb="28">
      <Heading as="h1" size="3xl" mb="4">
        What do you want to find out?
      </Heading>
      <Grid
        templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,10fr) minmax(0,11fr)' }}
        gap={{ base: '5', lg: '8' }}
        alignItems="start"
      >
        <Box position={{ lg: 'sticky' }} top="3" order={{ base: 2, lg: 1 }}>
          {marks && result.ok ? (
            <>
              <BoardDrawing
                plan={result.value}
                selected={patch}
                onSelect={setPatch}
                draw={marks.draw}
                say={marks.say}
                name="The board, as it will be laid out"
              />
              <Text color="fg.muted" fontSize="0.95rem" mt="1">
                {marks.legend}
              </Text>
            </>
          ) : (
            !result.ok && (
              <Box borderWidth="1px" borderStyle="dashed" p="6" role="alert">
                <Text fontWeight="700" fontSize="1.15rem">
                  {result.problem.say}
                </Text>
                {result.problem.wayOut && <Text mt="1">{result.problem.wayOut}</Text>}
              </Box>
            )
          )}
        </Box>
        <Box as="main" order={{ base: 1, lg: 2 }}>
          <Grid templateColumns={{ base: '1fr', md: '2fr 1fr' }} gap="4">
            <Field.Root invalid={nameless} required>
              <Field.Label>Name of the trial</Field.Label>
              <Input
                value={request.name}
                placeholder="Medium and cure time on birch"
                onChange={e => change({ name: e.target.value })}
              />
              <Field.ErrorText>Give the trial a name.</Field.ErrorText>
            </Field.Root>
            <Field.Root>
              <Field.Label>You want it</Field.Label>
              <NativeSelect.Root>
                <NativeSelect.Field
                  value={request.intent}
                  onChange={e => change({ intent: e.target.value as PlanRequest['intent'] })}
                >
                  {INTENTS.map(i => (
                    <option key={i}>{i}</option>
                  ))}
                </NativeSelect.Field>
                <NativeSelect.Indicator />
              </NativeSelect.Root>
            </Field.Root>
          </Grid>
          <Field.Root mt="4">
            <Field.Label>Your question, in your own words</Field.Label>
            <Textarea
              rows={2}
              value={request.question}
              placeholder="Which medium holds on bare birch, and is an evening long enough to dry?"
              onChange={e => change({ question: e.target.value })}
            />
          </Field.Root>
          <FactorEditor shelf={shelf} factors={request.factors} onChange={factors => change({ factors })} />
          <Heading as="h2" size="lg" mt="6" mb="2">
            The board
          </Heading>
          <Grid templateColumns={{ base: '1fr 1fr', md: 'repeat(4, 1fr)' }} gap="3">
            <Size
              label="Board width"
              mm={request.board.w}
              inch={inch}
              onChange={w => change({ board: { ...request.board, w } })}
            />
            <Size
              label="Board height"
              mm={request.board.h}
              inch={inch}
              onChange={h => change({ board: { ...request.board, h } })}
            />
            <Size label="Patch" mm={request.patchMm} inch={inch} onChange={patchMm => change({ patchMm })} />
            <Field.Root>
              <Field.Label>Repeats</Field.Label>
              <Input
                type="number"
                min={1}
                max={10}
                value={request.repeats || ''}
                onChange={e => change({ repeats: Number(e.target.value) })}
              />
            </Field.Root>
          </Grid>
          <HStack mt="3" gap="3" wrap="wrap">
            <Text>
              Shuffled from seed <b>{request.seed}</b>
            </Text>
            <Button size="sm" minH="40px" variant="outline" onClick={() => change({ seed: seedNow() })}>
              Shuffle again
            </Button>
          </HStack>
          <UsualEditor shelf={shelf} request={request} onChange={change} />
          <Box my="5" aria-live="polite">
            {notes.map(n => (
              <Flex key={n.say} gap="3" py="2" borderTopWidth="1px" align="baseline">
                <Text fontWeight="700" minW="5rem" color={n.severity === 'advise' ? 'tide.fg' : 'warn.fg'}>
                  {n.severity === 'stop' ? 'Stop' : n.severity === 'warn' ? 'Careful' : 'Advice'}
                </Text>
                <Text>{n.say}</Text>
              </Flex>
            ))}
          </Box>
          {result.ok && (
            <PlanSummary
              plan={{ ...result.value, question: '' }}
              records={[]}
              start={Date.parse(identity.at)}
            />
          )}
          <Box mt="6">
            <Button size="2xl" colorPalette="buoy" onClick={keep} w={{ base: '100%', md: 'auto' }}>
              Save the plan and print
            </Button>
            {nameless && (
              <Text mt="2" color="buoy.fg">
                Give the trial a name first.
              </Text>
            )}
            {tried && !result.ok && (
              <Text mt="2" color="buoy.fg">
                {result.problem.say} {result.problem.wayOut}
              </Text>
            )}
          </Box>
        </Box>
      </Grid>
    </Box>
  );
}

/** The same chances on every redraw, so that codes stay while the plan is edited. */
function steady(key: number): () => number {
  let state = key;
  return () => {
    state = (state * 9301 + 0.49297) % 1;
    return state;
  };
}

function Size({
  label,
  mm,
  inch,
  onChange,
}: {
  label: string;
  mm: number;
  inch: number;
  onChange: (mm: number) => void;
}) {
  return (
    <Field.Root>
      <Field.Label>
        {label}, {inch === 1 ? 'mm' : 'inches'}
      </Field.Label>
      <Input
        type="number"
        step={inch === 1 ? 1 : 0.25}
        value={Number.isFinite(mm) && mm ? Math.round((mm / inch) * 100) / 100 : ''}
        onChange={e => onChange(Math.round(Number(e.target.value) * inch * 10) / 10)}
      />
    </Field.Root>
  );
}
