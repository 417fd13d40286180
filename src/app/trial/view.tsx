import { Box, Flex, Heading, Spinner, Text } from '@chakra-ui/react';
import { createContext, type ReactNode, useContext, useState } from 'react';
import { Link, useLocation, useNavigate, useNavigation, useParams, useSearchParams } from 'react-router';
import type { Patch, TrialPlan, TrialRecord } from '../../core/trial/index.ts';
import { useRecords, useTrials, type WorkshopName } from '../../store/index.ts';
import { useWorkshop } from '../ui/workshop.ts';

export interface TrialView {
  readonly workshop: WorkshopName;
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly selected: Patch | undefined;
  select(code: string): void;
}

/** Hands the open trial down to the stage beside the board. */
export const TrialContext = createContext<TrialView | undefined>(undefined);

/** The trial that is open, its records and the selected patch. */
export function useTrial(): TrialView {
  const view = useContext(TrialContext);
  if (!view) throw new Error('No trial is open');
  return view;
}

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
