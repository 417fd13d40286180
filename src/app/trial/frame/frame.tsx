import { chakra } from '@chakra-ui/react';
import { Navigate, NavLink, Outlet, useLocation, useMatches, useNavigate } from 'react-router';
import { movePatch, moving, swapPatches } from '../../../core/design/index.ts';
import type { Outcome } from '../../../core/outcome/index.ts';
import { hasBegun } from '../../../core/progress/index.ts';
import { agree } from '../../../core/say/index.ts';
import { changesIn, type TrialPlan } from '../../../core/trial/index.ts';
import { useWorkshopActions } from '../../../store/index.ts';
import { BoardDrawing } from '../../board/board.tsx';
import { GiveBack } from '../../phone/give-back.tsx';
import { Box, Button, Flex, Grid, Heading, Text } from '../../ui/kit.tsx';
import { asNotice, notSaved, useAttempt, useNotice } from '../../ui/notices.tsx';
import { titled, useTitle } from '../../ui/page-focus.ts';
import { Said } from '../../ui/settings.tsx';
import { SaveAsStored } from '../../workshop/save-as-stored.tsx';
import { usePainted } from '../../workshop/use-painted.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useFindingsCount } from '../findings-at-hand.ts';
import type { LoadedStage, Stage } from '../stage.ts';
import { TrialContext, type TrialView, WithTrial } from '../view.tsx';

const StageLink = chakra(NavLink);

/** A trial's frame: name, stages, the board that stays where it is, and the stage beside it. */
export function TrialFrame({ stages }: { stages: readonly Stage[] }) {
  return <WithTrial>{view => <Framed {...{ view, stages }} />}</WithTrial>;
}

function Framed({ view, stages }: { view: TrialView; stages: readonly Stage[] }) {
  const { plan, workshop, selected, select } = view;
  const path = useLocation().pathname.split('/').at(-1);
  const stage = stages.find(s => s.id === path);
  // The page that is open has been loaded, and what it draws with it.
  const loaded = useMatches().at(-1)?.handle as Pick<LoadedStage, 'marks'> | undefined;
  const { changePlan } = useWorkshopActions(workshop);
  const tell = useNotice();
  const record = useRecord(workshop, plan.id);
  const painted = usePainted();
  // What is drawn on the board may rest on findings that come later.
  useFindingsCount();
  useTitle(stage && titled(`${plan.name}: ${stage.label}`));
  if (!stage || !loaded) return <Navigate replace to={`/w/${workshop}/t/${plan.id}/${stages[0].id}`} />;
  const marks = loaded.marks(view);
  // What nobody has begun can be moved; where there are records already, that is one more of them.
  const isUntouched = !hasBegun(view.records) && !changesIn(view.records).length;
  const arrange = async (change: (plan: TrialPlan) => Outcome<TrialPlan>) => {
    try {
      const next = isUntouched ? await changePlan(plan.id, change) : change(plan);
      if (!next.ok) return tell(asNotice(next.problem));
      if (isUntouched) return;
      const moved = moving(plan, next.value, view.records);
      if (!moved.ok) return tell(asNotice(moved.problem));
      await record.add([{ kind: 'change', patch: null, change: moved.value }]);
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const query = selected ? `?patch=${selected.code}` : '';
  return (
    <TrialContext.Provider value={view}>
      <Box px={{ base: '4', md: '6' }} pt="3" pb="24">
        <Flex gap="3" align="baseline" wrap="wrap">
          <Heading as="h1" size="2xl">
            {plan.name}
          </Heading>
          <Text color="fg.muted">
            {plan.real ? 'pieces' : 'trial'} {plan.code}
          </Text>
          <Box flex="1" />
          <RemoveTrial view={view} />
        </Flex>
        <Flex as="nav" aria-label="Stages" gap="0" my="3" borderBottomWidth="1px" wrap="wrap">
          {stages.map(({ id, label }) => (
            <StageLink
              key={id}
              to={`/w/${workshop}/t/${plan.id}/${id}${query}`}
              onClick={e => {
                // With these keys it opens elsewhere.
                if (!e.metaKey && !e.ctrlKey && !e.shiftKey)
                  view.leaveFor(`/w/${workshop}/t/${plan.id}/${id}`);
              }}
              px={{ base: '2.5', md: '4' }}
              lineHeight="44px"
              fontSize={{ base: '0.95rem', md: '1.05rem' }}
              css={{
                '&.active': { fontWeight: 700, boxShadow: 'inset 0 -4px 0 var(--chakra-colors-buoy-solid)' },
              }}
            >
              {label}
            </StageLink>
          ))}
        </Flex>
        <GiveBack />
        {view.damaged > 0 && (
          <Flex role="status" gap="3" align="center" wrap="wrap" mb="3">
            <Text color="warn.fg" flex="1" minW="16rem">
              {view.damaged} stored {agree(view.damaged, 'record', 'records')} of this trial cannot be read
              and {agree(view.damaged, 'is', 'are')} left out. Nothing was deleted.
            </Text>
            <SaveAsStored workshop={workshop} trial={plan.id} />
          </Flex>
        )}
        <Grid
          templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,10fr) minmax(0,11fr)' }}
          gap={{ base: '5', lg: '8' }}
          alignItems="start"
        >
          {/* Of pieces the board has little to tell: on a phone what is to be done comes first. */}
          <Box position={{ lg: 'sticky' }} top="3" order={plan.real && { base: 1, lg: 0 }}>
            <BoardDrawing
              plan={plan}
              selected={selected?.code}
              onSelect={select}
              draw={marks.draw}
              say={marks.say}
              name={`The board, ${marks.what}`}
              onMove={
                stage.arranges ? (code, to) => void arrange(now => movePatch(now, code, to)) : undefined
              }
              onSwap={stage.arranges ? (a, b) => void arrange(now => swapPatches(now, a, b)) : undefined}
            />
            <Text color="fg.muted" fontSize="0.95rem" mt="1">
              <Said>{marks.legend}</Said>
            </Text>
          </Box>
          <Box as="main" minW="0">
            {painted && <Outlet />}
          </Box>
        </Grid>
      </Box>
    </TrialContext.Provider>
  );
}

function RemoveTrial({ view }: { view: TrialView }) {
  const { remove, restore } = useWorkshopActions(view.workshop);
  const navigate = useNavigate();
  const tell = useNotice();
  const attempt = useAttempt();
  const doIt = async () => {
    const { id, name } = view.plan;
    await navigate(`/w/${view.workshop}`);
    if (!(await attempt(() => remove(id)))) return;
    tell({
      say: `“${name}” was removed. It is kept until you erase it.`,
      undo: () => void attempt(() => restore(id)),
    });
  };
  return (
    <Button variant="ghost" size="sm" minH="40px" color="fg.muted" onClick={doIt}>
      Remove {view.plan.real ? 'these pieces' : 'trial'}
    </Button>
  );
}
