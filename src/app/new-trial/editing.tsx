import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { inPlaceOf, movePatch, type PlanRequest, swapPatches } from '../../core/design/index.ts';
import { findMethod, METHODS, type Method, waitsForDrying } from '../../core/methods/index.ts';
import { good, type Outcome } from '../../core/outcome/index.ts';
import { compareMethods, requestFor } from '../../core/questions/index.ts';
import { within } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { WEAR } from '../../core/steps/index.ts';
import { TARGET, type TrialPlan } from '../../core/trial/index.ts';
import { usePictures, useWorkshopActions } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { levelMarksOn } from '../board/level-marks.tsx';
import { AirFields } from '../ui/air-fields.tsx';
import { Box, Button, Flex, Grid, Heading, Text } from '../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { picturesFor } from '../workshop/on-patches.ts';
import { useKnown, useLessons } from '../workshop/use-known.ts';
import { useRecord } from '../workshop/use-record.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import { BoardEditor } from './board-editor.tsx';
import { CannotBe } from './cannot-be.tsx';
import { useWays } from './choice.tsx';
import { DesignEditor } from './design-editor.tsx';
import { DryingHint } from './drying-hint.tsx';
import { FactorEditor } from './factor-editor.tsx';
import { requestFrom } from './from.ts';
import { PatchPictures } from './patch-pictures.tsx';
import { InOneLine, SaveIt, State } from './plan-state.tsx';
import { PlanSummary } from './plan-summary.tsx';
import { QuestionFields } from './question-fields.tsx';
import { LeftOut, TellsPanel } from './tells-panel.tsx';
import { trimmed } from './trimmed.ts';
import { useDraft } from './use-draft.ts';
import { scatterBasis, useKnownNoise } from './use-known-noise.ts';
import { useLearnt } from './use-learnt.ts';
import { usePlan } from './use-plan.ts';
import { UsualEditor } from './usual-editor.tsx';

const seedNow = () => Math.floor(Math.random() * 9000) + 1000;

/** Ask and lay out: the question on one side, the board that answers it on the other, live. */
export function Editing({
  from,
  start,
  shelf,
  own,
  old,
}: {
  from: string;
  start: PlanRequest;
  shelf: Shelf;
  own: readonly Method[];
  /** The trial whose plan is edited, with the changes made to it so far. */
  old?: { readonly plan: TrialPlan; readonly changes: readonly string[] };
}) {
  const workshop = useWorkshop();
  const navigate = useNavigate();
  const tell = useNotice();
  const { save, changePlan, append } = useWorkshopActions(workshop);
  const stored = usePictures(workshop);
  const record = useRecord(workshop, old?.plan.id ?? '');
  const draft = useDraft(
    `${workshop} ${from}`,
    start,
    () => (old ? start : { ...start, seed: seedNow() }),
    shelf,
    own,
  );
  const { request, setRequest } = draft;
  const [patch, setPatch] = useState<string>();
  const [tried, setTried] = useState(false);
  const [arranged, setArranged] = useState<{ readonly of: TrialPlan; readonly plan: TrialPlan }>();
  const method = findMethod(request.method, own) ?? METHODS[0];
  const planning = usePlan({ request, shelf, own });
  const trials = useKnown(workshop);
  const evidence = useMemo(
    () => trials.flatMap(t => (t.id === old?.plan.id ? [] : t.evidence)),
    [trials, old?.plan.id],
  );
  const learnt = useLearnt(shelf, useLessons(workshop));
  const ways = useWays(request, own, learnt.shelf);
  const methods = ways.map(w => w.method);
  const things = { ...shelf, pictures: [TARGET, ...(request.pictures ?? [])] };
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
  const hint = methods.some(waitsForDrying) ? <DryingHint plan={plan} learnt={learnt.mediums} /> : undefined;
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
      const named = { ...plan, name: request.name.trim(), question: request.question };
      const kept = old ? inPlaceOf(named, old.plan) : named;
      // What is printed on the patches is drawn first: a plan without it would print nothing.
      const { drafts, files } = await picturesFor(workshop, kept, stored.data ?? []);
      if (old) {
        // All that was changed so far is in the plan itself now.
        const undone = old.changes.map(of => ({ kind: 'undo', patch: null, of }) as const);
        const placed = await changePlan(kept.id, () => good(kept));
        if (!placed.ok) return tell(asNotice(placed.problem));
        if (undone.length && !(await record.add(undone))) return;
      } else await save(kept);
      if (drafts.length) await append(kept.id, drafts, files);
      draft.forget();
      await navigate(`/w/${workshop}/t/${kept.id}/print${patch ? `?patch=${patch}` : ''}`);
    } catch (error) {
      tell(notSaved(error));
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
        {old ? `Edit “${old.plan.name}”` : 'Lay it out'}
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
            shelf={things}
            ways={ways}
            methods={[...METHODS, ...own]}
            factors={request.factors}
            hint={hint}
            onChange={vary}
          />
          <PatchPictures {...{ request, shelf, ways }} onChange={change} />
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
              When they are finished, they are worn: {request.wear.map(w => within(WEAR[w].name)).join(', ')}.
            </Text>
          )}
          {result?.ok && plan && (
            <>
              <LeftOut leftOut={plan.design.leftOut} overrides={request.overrides} onChange={change} />
              <TellsPanel plan={plan} known={evidence} basis={scatterBasis(plan.noise, known)} />
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
