import { Spinner } from '@chakra-ui/react';
import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate, useNavigation, useParams, useSearchParams } from 'react-router';
import type { Words } from '../../core/say/index.ts';
import { type Patch, planNow, type TrialPlan, type TrialRecord } from '../../core/trial/index.ts';
import { usePlan, useRecords, type WorkshopName } from '../../store/index.ts';
import { Box, Flex, Heading, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import { SaveAsStored } from '../workshop/save-as-stored.tsx';
import { useWorkshop } from '../workshop/workshop.ts';

export interface TrialView {
  readonly workshop: WorkshopName;
  /** The plan as it is now, with all changes made to it. */
  readonly plan: TrialPlan;
  /** The plan as it was made. */
  readonly made: TrialPlan;
  readonly records: readonly TrialRecord[];
  /** How many stored records cannot be read. */
  readonly damaged: number;
  readonly selected: Patch | undefined;
  select(code: string): void;
  /** A stage was chosen: until it is there, selecting a patch leads there too. */
  leaveFor(path: string): void;
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
  const found = usePlan(workshop, trial);
  const records = useRecords(workshop, trial);
  const [search] = useSearchParams();
  const here = useLocation();
  const going = useNavigation();
  const navigate = useNavigate();
  const [first, setFirst] = useState<string>();
  const bound = useRef<string>(undefined);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever a stage has come up
  useEffect(() => {
    bound.current = undefined;
  }, [here.pathname]);
  if (found.isError) throw found.error;
  if (records.isError) throw records.error;
  if (found.isPending || records.isPending) return <Waiting workshop={workshop} />;
  if (!found.data) return <Missing workshop={workshop} />;
  if (!found.data.ok) return <Unreadable why={found.data.problem.say} {...{ workshop, trial }} />;
  const made = found.data.value;
  const plan = planNow(made, records.data.records);
  const code = search.get('patch') ?? first ?? undefined;
  const selected = plan.patches.find(p => p.code === code);
  const select = (next: string) => {
    setFirst(next);
    // A stage that is still being loaded stays where the maker wants to go.
    const to = going.location ?? here;
    const params = new URLSearchParams(to.search);
    params.set('patch', next);
    void navigate(
      { pathname: bound.current ?? to.pathname, search: `?${params}` },
      { replace: going.state === 'idle' && bound.current === undefined },
    );
  };
  return children({
    workshop,
    plan,
    made,
    records: records.data.records,
    damaged: records.data.damaged.length,
    selected,
    select,
    leaveFor: path => {
      bound.current = path;
    },
  });
}

function Waiting({ workshop }: { workshop: WorkshopName }) {
  return (
    <Flex p="10" gap="3" align="center" role="status">
      <Spinner /> Opening…
      {workshop === 'demo' &&
        ' The first time, the demo’s trials and photos are fetched: that may take a little.'}
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

/** A stored trial that this version cannot read: named, kept, and one press from a file. */
function Unreadable({ why, workshop, trial }: { why: Words; workshop: WorkshopName; trial: string }) {
  return (
    <Box as="main" p="8" maxW="40rem">
      <Heading as="h1" size="2xl" mb="3">
        This trial cannot be read
      </Heading>
      <Text mb="4">
        <Said>{why}</Said> Nothing of it was deleted.
      </Text>
      <SaveAsStored {...{ workshop, trial }} />
      <Text mt="6">
        <Link to={`/w/${workshop}`} style={{ textDecoration: 'underline' }}>
          See all trials
        </Link>
      </Text>
    </Box>
  );
}
