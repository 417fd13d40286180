import {
  addTurned,
  CAUSES,
  type Cause,
  shiftsFrom,
  type Turned,
  turnedOut,
} from '../../../core/diagnosis/index.ts';
import { about, type Patch } from '../../../core/trial/index.ts';
import { useOverview, type WorkshopName } from '../../../store/index.ts';
import { Button, HStack, Text } from '../../ui/kit.tsx';
import { useLostFocus } from '../../ui/page-focus.ts';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** What turned out to be the cause of failures in this workshop, over all trials that are kept. */
export function useTurned(workshop: WorkshopName): Turned {
  const { data } = useOverview(workshop);
  return addTurned(data?.trials.filter(t => !t.removedAt).map(t => t.summary.turned) ?? []);
}

/** A shift of the odds smaller than this makes no difference that is worth a word. */
const WORTH_SAYING = 1.15;

/** "It was this", and what such words did to how usual this cause is taken to be. */
export function ItWasThis({ cause, patch }: { cause: Cause; patch: Patch }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const turned = useTurned(workshop);
  const isThis = turnedOut(plan, records).get(patch.code) === cause.id;
  const n = turned[cause.id] ?? 0;
  const times = Math.exp(shiftsFrom(CAUSES, turned)[cause.id]);
  return (
    <HStack mt="2" gap="3" wrap="wrap">
      {!isThis && (
        <Button
          minH="48px"
          variant="outline"
          disabled={record.busy}
          onClick={() => void record.add([{ kind: 'cause', patch: patch.code, cause: cause.id }])}
        >
          It was this
        </Button>
      )}
      {n > 0 && times > WORTH_SAYING && (
        <Text color="fg.muted">
          It turned out to be this {n === 1 ? 'once' : `${n} times`} in this workshop, so it is taken to be{' '}
          {times.toFixed(1)} times as usual as elsewhere.
        </Text>
      )}
    </HStack>
  );
}

/** "It was something else", where nothing of that was said yet. */
export function ItWasNone({ patch }: { patch: Patch }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  if (turnedOut(plan, records).has(patch.code)) return null;
  return (
    <Button
      mt="2"
      minH="44px"
      variant="ghost"
      disabled={record.busy}
      onClick={() => void record.add([{ kind: 'cause', patch: patch.code, cause: null }])}
    >
      It was none of these
    </Button>
  );
}

/** What the maker said it was, which can be taken back. */
export function TurnedOut({ patch }: { patch: Patch }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const said = about(records, patch.code, 'cause').at(-1);
  return said ? (
    <SaidSo
      cause={said.cause}
      busy={record.busy}
      takeBack={() => void record.add([{ kind: 'undo', patch: patch.code, of: said.id }])}
    />
  ) : null;
}

function SaidSo({ cause, busy, takeBack }: { cause: string | null; busy: boolean; takeBack: () => void }) {
  const place = useLostFocus<HTMLDivElement>();
  const name = CAUSES.find(c => c.id === cause)?.name;
  return (
    <HStack mb="3" gap="3" wrap="wrap" ref={place} tabIndex={-1}>
      <Text fontSize="1.15rem">
        <b>You said what it was:</b> {name ?? 'none of the causes that we know'}.
      </Text>
      <Button minH="44px" variant="outline" disabled={busy} onClick={takeBack}>
        Take that back
      </Button>
    </HStack>
  );
}
