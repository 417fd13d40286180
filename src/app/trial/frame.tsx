import { Box, Button, chakra, Flex, Grid, Heading, Text } from '@chakra-ui/react';
import { Navigate, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { movePatch, swapPatches } from '../../core/design/index.ts';
import type { Outcome } from '../../core/outcome/index.ts';
import { hasBegun } from '../../core/progress/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { asNotice, failure, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import type { Stage } from './stage.ts';
import { TrialContext, type TrialView, WithTrial } from './view.tsx';

const StageLink = chakra(NavLink);

/** A trial's frame: name, stages, the board that stays where it is, and the stage beside it. */
export function TrialFrame({ stages }: { stages: readonly Stage[] }) {
  return <WithTrial>{view => <Framed {...{ view, stages }} />}</WithTrial>;
}

function Framed({ view, stages }: { view: TrialView; stages: readonly Stage[] }) {
  const { plan, workshop, selected, select } = view;
  const path = useLocation().pathname.split('/').at(-1);
  const stage = stages.find(s => s.id === path);
  const { save } = useWorkshopActions(workshop);
  const tell = useNotice();
  if (!stage) return <Navigate replace to={`/w/${workshop}/t/${plan.id}/${stages[0].id}`} />;
  const marks = stage.marks(view);
  const loose = stage.arranges && !hasBegun(view.records);
  const arrange = async (next: Outcome<TrialPlan>) => {
    if (!next.ok) return tell(asNotice(next.problem));
    try {
      await save(next.value);
    } catch (error) {
      tell(failure(error));
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
          <Text color="fg.muted">trial {plan.code}</Text>
          <Box flex="1" />
          <RemoveTrial view={view} />
        </Flex>
        <Flex as="nav" aria-label="Stages" gap="0" my="3" borderBottomWidth="1px" wrap="wrap">
          {stages.map(({ id, label }) => (
            <StageLink
              key={id}
              to={`/w/${workshop}/t/${plan.id}/${id}${query}`}
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
        <Grid
          templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,10fr) minmax(0,11fr)' }}
          gap={{ base: '5', lg: '8' }}
          alignItems="start"
        >
          <Box position={{ lg: 'sticky' }} top="3">
            <BoardDrawing
              plan={plan}
              selected={selected?.code}
              onSelect={select}
              draw={marks.draw}
              say={marks.say}
              name={`The board, ${marks.what}`}
              onMove={loose ? (code, to) => void arrange(movePatch(plan, code, to)) : undefined}
              onSwap={loose ? (a, b) => void arrange(swapPatches(plan, a, b)) : undefined}
            />
            <Text color="fg.muted" fontSize="0.95rem" mt="1">
              <Said>{marks.legend}</Said>
            </Text>
          </Box>
          <Box as="main" minW="0">
            <Outlet />
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
  const doIt = async () => {
    await navigate(`/w/${view.workshop}`);
    await remove(view.plan);
    tell({
      say: `“${view.plan.name}” was removed. It is kept until you erase it.`,
      undo: () => void restore(view.plan),
    });
  };
  return (
    <Button variant="ghost" size="sm" minH="40px" color="fg.muted" onClick={doIt}>
      Remove trial
    </Button>
  );
}
