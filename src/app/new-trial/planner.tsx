import { Box, Button, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { movePatch, type PlanRequest, swapPatches } from '../../core/design/index.ts';
import { findMethod, METHODS, type Method, waitsForDrying } from '../../core/methods/index.ts';
import type { Outcome, Problem } from '../../core/outcome/index.ts';
import { compareMethods, requestFor } from '../../core/questions/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { WEAR } from '../../core/steps/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { useMethods, useShelf, useWorkshopActions } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { levelMarksOn } from '../board/level-marks.tsx';
import { asNotice, failure, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { useKnown, useLessons } from '../ui/use-known.ts';
import { useWorkshop } from '../ui/workshop.ts';
import { BoardEditor } from './board-editor.tsx';
import { useWays } from './choice.tsx';
import { DesignEditor } from './design-editor.tsx';
import { DryingHint } from './drying-hint.tsx';
import { FactorEditor } from './factor-editor.tsx';
import { requestFrom } from './from.ts';
import { InOneLine, SaveIt, State } from './plan-state.tsx';
import { PlanSummary } from './plan-summary.tsx';
import { QuestionFields } from './question-fields.tsx';
import { LeftOut, SeeItFail, TellsPanel } from './tells-panel.tsx';
import { trimmed } from './trimmed.ts';
import { useDraft } from './use-draft.ts';
import { useKnownNoise } from './use-known-noise.ts';
import { useLearnt } from './use-learnt.ts';
import { usePlan } from './use-plan.ts';
import { AirFields, UsualEditor } from './usual-editor.tsx';

const seedNow = () => Math.floor(Math.random() * 9000) + 1000;

/** Ask and lay out: the question on one side, the board that answers it on the other, live. */
export function Planner() {
  const workshop = useWorkshop();
  const stored = useShelf(workshop);
  const own = useMethods(workshop);
  const [params] = useSearchParams();
  const from = params.get('from') ?? 'plain:wet-rub';
  if (!stored.data || !own.data)
    return (
      <Box p="8" role="status">
        Opening the shelf…
      </Box>
    );
  const start = requestFrom(from, stored.data.shelf, own.data);
  if (!start.ok)
    return (
      <Box as="main" p="6" maxW="44rem">
        <Heading as="h1" size="2xl" mb="2">
          This cannot be planned yet
        </Heading>
        <Text fontSize="1.1rem">
          {start.problem.say} {start.problem.wayOut}
        </Text>
        <Flex gap="3" mt="4">
          <Button asChild colorPalette="tide" minH="48px">
            <Link to={`/w/${workshop}/shelf`}>Go to the shelf</Link>
          </Button>
          <Button asChild variant="outline" minH="48px">
            <Link to={`/w/${workshop}/new`}>Choose another question</Link>
          </Button>
        </Flex>
      </Box>
    );
  return <Editing key={from} from={from} start={start.value} shelf={stored.data.shelf} own={own.data} />;
}

function Editing({
  from,
  start,
  shelf,
  own,
}: {
  from: string;
  start: PlanRequest;
  shelf: Shelf;
  own: readonly Method[];
}) {
  const workshop = useWorkshop();
  const navigate = useNavigate();
  const tell = useNotice();
  const { save } = useWorkshopActions(workshop);
  const draft = useDraft(`${workshop} ${from}`, start, () => ({ ...start, seed: seedNow() }), shelf, own);
  const { request, setRequest } = draft;
  const [patch, setPatch] = useState<string>();
  const [tried, setTried] = useState(false);
  const [arranged, setArranged] = useState<{ readonly of: TrialPlan; readonly plan: TrialPlan }>();
  const method = findMethod(request.method, own) ?? METHODS[0];
  const planning = usePlan({ request, shelf, own });
  const trials = useKnown(workshop);
  const learnt = useLearnt(shelf, useLessons(workshop));
  const ways = useWays(request, own, learnt.shelf);
  const methods = ways.map(w => w.method);
  const hint = methods.some(waitsForDrying) ? (
    <DryingHint {...{ request, shelf }} learnt={learnt.mediums} />
  ) : undefined;
  const known = useKnownNoise(trials);
  // The maker's own scatter takes the place of the guess as soon as it is known, unless the guess was changed.
  const [took, setTook] = useState(false);
  if (known && !took) {
    setTook(true);
    if (request.noise === start.noise) setRequest(old => ({ ...old, noise: known.points }));
  }
  const change = (part: Partial<PlanRequest>) => setRequest(old => ({ ...old, ...part }));
  const vary = (factors: PlanRequest['factors']) => {
    const next = compareMethods({ ...request, ...trimmed(request, factors) }, shelf, own);
    if (next.ok) setRequest(() => next.value);
    else tell(asNotice(next.problem));
  };
  /** What is usual in one method; they all share the ground. */
  const setUsual = (id: string, usual: PlanRequest['usual']) =>
    setRequest(old => ({
      ...old,
      ...(id === old.method ? { usual } : {}),
      ...(old.compared && {
        compared: old.compared.map(c => ({
          ...c,
          usual: {
            ...(c.method === id ? usual : c.usual),
            substrate: id === old.method ? usual.substrate : c.usual.substrate,
          },
        })),
      }),
    }));
  const result = planning.state === 'planned' ? planning.result : undefined;
  const made = result?.ok ? result.value : planning.state === 'planned' ? undefined : planning.last;
  const plan = made && arranged?.of === made ? arranged.plan : made;
  const nameless = tried && !request.name.trim();
  const arrange = (work: (plan: TrialPlan) => Outcome<TrialPlan>) => {
    if (!made || !plan) return;
    const next = work(plan);
    if (next.ok) setArranged({ of: made, plan: next.value });
    else tell(asNotice(next.problem));
  };
  const keep = async () => {
    setTried(true);
    // On a phone the reason stands a long way up from the button.
    if (result && !result.ok) return tell(asNotice(result.problem));
    if (!request.name.trim() || !result || !plan) return;
    try {
      await save({ ...plan, name: request.name.trim(), question: request.question });
      draft.forget();
      await navigate(`/w/${workshop}/t/${plan.id}/print${patch ? `?patch=${patch}` : ''}`);
    } catch (error) {
      tell(failure(error));
    }
  };
  const changeMethod = (id: string) => {
    const next = findMethod(id, own);
    const plain = next && requestFor(next, shelf);
    if (!plain) return;
    if (!plain.ok) return tell(asNotice(plain.problem));
    const started = requestFrom(`plain:${id}`, shelf, own);
    setRequest(old => ({
      ...(started.ok ? started.value : plain.value),
      name: old.name,
      question: old.question,
      intent: old.intent,
      seed: old.seed,
      air: old.air,
    }));
  };
  const marks = plan && levelMarksOn(plan);
  return (
    <Box px={{ base: '4', md: '6' }} pt="4" pb="28">
      <Heading as="h1" size="3xl" mb="4">
        Lay it out
      </Heading>
      {draft.taken && (
        <Flex mb="4" gap="3" align="center" wrap="wrap" role="status">
          <Text>Taken up where you left it.</Text>
          <Button variant="outline" minH="44px" onClick={draft.restart}>
            Begin anew
          </Button>
        </Flex>
      )}
      <Grid
        templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,10fr) minmax(0,11fr)' }}
        gap={{ base: '5', lg: '8' }}
        alignItems="start"
      >
        <Box position={{ lg: 'sticky' }} top="3">
          {marks && plan && (
            <>
              <BoardDrawing
                plan={plan}
                selected={patch}
                onSelect={setPatch}
                draw={marks.draw}
                say={marks.say}
                name="The board, as it will be laid out"
                onMove={(code, to) => arrange(p => movePatch(p, code, to))}
                onSwap={(a, b) => arrange(p => swapPatches(p, a, b))}
                low
              />
              <Text color="fg.muted" fontSize="0.95rem" mt="1" lineClamp="4">
                <Said>{marks.legend}</Said>
              </Text>
            </>
          )}
          <State planning={planning} />
          {result && !result.ok && <CannotBe problem={result.problem} request={request} onChange={change} />}
          {plan && result?.ok && <InOneLine plan={plan} />}
          <Box display={{ base: 'none', lg: 'block' }}>
            <SaveIt nameless={nameless} busy={planning.state !== 'planned'} onSave={keep} />
          </Box>
        </Box>
        <Box as="main" minW="0">
          <QuestionFields {...{ request, method, own, nameless, changeMethod }} onChange={change} />
          <FactorEditor
            shelf={shelf}
            ways={ways}
            methods={[...METHODS, ...own]}
            factors={request.factors}
            hint={hint}
            onChange={vary}
          />
          <DesignEditor methods={methods} request={request} known={known} onChange={change} />
          <BoardEditor
            request={request}
            methods={methods}
            onChange={change}
            onShuffle={() => change({ seed: seedNow() })}
            patches={plan?.patches.length}
          />
          {ways.map(way => (
            <UsualEditor
              key={way.method.id}
              {...{ shelf, way, request }}
              hint={waitsForDrying(way.method) ? hint : undefined}
              onChange={usual => setUsual(way.method.id, usual)}
            />
          ))}
          <AirFields air={request.air} onChange={air => change({ air })} />
          {request.wear.length > 0 && (
            <Text mt="4">
              When they are finished, they are worn:{' '}
              {request.wear.map(w => WEAR[w].name.toLowerCase()).join(', ')}.
            </Text>
          )}
          {result?.ok && plan && (
            <>
              <LeftOut leftOut={plan.design.leftOut} overrides={request.overrides} onChange={change} />
              <TellsPanel plan={plan} />
              <Box mt="6">
                <PlanSummary
                  plan={{ ...plan, question: '' }}
                  records={[]}
                  start={Date.parse(plan.createdAt)}
                />
              </Box>
            </>
          )}
          <Box display={{ lg: 'none' }} mt="5">
            <SaveIt nameless={nameless} busy={planning.state !== 'planned'} onSave={keep} />
          </Box>
        </Box>
      </Grid>
    </Box>
  );
}

/** Why a plan cannot be made, and the way out. */
function CannotBe({
  problem,
  request,
  onChange,
}: {
  problem: Problem;
  request: PlanRequest;
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  return (
    <Box borderWidth="1px" borderStyle="dashed" p="5" role="alert">
      <Text fontWeight="700" fontSize="1.15rem">
        <Said>{problem.say}</Said>
      </Text>
      {problem.wayOut && (
        <Text mt="1">
          <Said>{problem.wayOut}</Said>
        </Text>
      )}
      {problem.board && (
        <Button
          mt="3"
          minH="48px"
          variant="outline"
          onClick={() => onChange({ board: { ...request.board, ...problem.board } })}
        >
          Take one of <Said>{`${problem.board.w} × ${problem.board.h} mm`}</Said>
        </Button>
      )}
      <SeeItFail say={problem.say} overrides={request.overrides} onChange={onChange} />
    </Box>
  );
}
