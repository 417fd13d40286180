import { Box, Button, chakra, Flex, Grid, Heading, Spinner, Text } from '@chakra-ui/react';
import { createContext, type ReactNode, useContext, useState } from 'react';
import {
  Link,
  Navigate,
  NavLink,
  Outlet,
  useLocation,
  useNavigate,
  useNavigation,
  useParams,
  useSearchParams,
} from 'react-router';
import { movePatch, swapPatches } from '../../core/design/index.ts';
import type { Outcome } from '../../core/outcome/index.ts';
import type { Patch, TrialPlan, TrialRecord } from '../../core/trial/index.ts';
import { useRecords, useTrials, useWorkshopActions, type WorkshopName } from '../../store/index.ts';
import { BoardDrawing } from '../board/board.tsx';
import { asNotice, failure, useNotice } from '../shell/notices.tsx';
import { Said } from '../shell/settings.tsx';
import { useWorkshop } from '../shell/shell.tsx';
import { stageMarks } from './stage-marks.tsx';

export interface TrialView {
  readonly workshop: WorkshopName;
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly selected: Patch | undefined;
  select(code: string): void;
}

const Context = createContext<TrialView | undefined>(undefined);

/** The trial that is open, its records and the selected patch. */
export function useTrial(): TrialView {
  const view = useContext(Context);
  if (!view) throw new Error('No trial is open');
  return view;
}

const STAGES = [
  ['plan', 'Lay out'],
  ['print', 'Print'],
  ['make', 'Make'],
  ['read', 'Read'],
  ['judge', 'Judge'],
  ['explain', 'Explain'],
  ['keep', 'Keep'],
] as const;
export type StageName = (typeof STAGES)[number][0];

/** Loads the trial that the address names and hands it to `children`, or says that it is not there. */
export function WithTrial({ children }: { children: (view: TrialView) => ReactNode }) {
  const workshop = useWorkshop();
  const { trial = '' } = useParams();
  const trials = useTrials(workshop);
  const records = useRecords(workshop, trial);
  const [search] = useSearchParams();
  const here = useLocation();
  const going = useNavigation();
  const navigate = useNavigate();
  const [first, setFirst] = useState<string>();
  if (trials.isPending || records.isPending) return <Waiting />;
  const found = trials.data?.trials.find(t => t.plan.id === trial && !t.removedAt);
  if (!found) return <Missing workshop={workshop} />;
  const { plan } = found;
  const code = search.get('patch') ?? first ?? undefined;
  const selected = plan.patches.find(p => p.code === code);
  const select = (next: string) => {
    setFirst(next);
    // A stage that is still being loaded stays where the maker wants to go.
    const to = going.location ?? here;
    const params = new URLSearchParams(to.search);
    params.set('patch', next);
    void navigate({ pathname: to.pathname, search: `?${params}` }, { replace: going.state === 'idle' });
  };
  return children({ workshop, plan, records: records.data?.records ?? [], selected, select });
}

function Waiting() {
  return (
    <Flex p="10" gap="3" align="center" role="status">
      <Spinner /> Opening…
    </Flex>
  );
}

function Missing({ workshop }: { workshop: WorkshopName }) {
  return (
    <Box as="main" p="8" maxW="40rem">
      <Heading as="h1" size="2xl" mb="3">
        This trial is not in this workshop
      </Heading>
      <Text mb="4">It may have been removed, or it belongs to another browser.</Text>
      <Link to={`/w/${workshop}`} style={{ textDecoration: 'underline' }}>
        See all trials
      </Link>
    </Box>
  );
}

const StageLink = chakra(NavLink);

/** A trial's frame: name, stages, the board that stays where it is, and the stage beside it. */
export function TrialFrame() {
  return <WithTrial>{view => <Framed view={view} />}</WithTrial>;
}

function Framed({ view }: { view: TrialView }) {
  const { plan, workshop, selected, select } = view;
  const stage = useLocation().pathname.split('/').at(-1) as StageName;
  const { save } = useWorkshopActions(workshop);
  const tell = useNotice();
  if (!STAGES.some(([id]) => id === stage))
    return <Navigate replace to={`/w/${workshop}/t/${plan.id}/plan`} />;
  const marks = stageMarks(stage, view);
  const loose = stage === 'plan' && !view.records.some(r => r.kind === 'step');
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
    <Context.Provider value={view}>
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
          {STAGES.map(([id, label]) => (
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
    </Context.Provider>
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
