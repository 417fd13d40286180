import { Progress } from '@chakra-ui/react';
import { memo, useEffect, useState, useSyncExternalStore } from 'react';
import { problemWords } from '../../../core/outcome/index.ts';
import { agree } from '../../../core/say/index.ts';
import { carrierName, type TrialPlan, type WearTest } from '../../../core/trial/index.ts';
import type { Aim } from '../../../workers/index.ts';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Flex, HStack, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';
import { wornAs, wornWords } from './by-records.ts';
import { CornersByHand } from './corners-by-hand.tsx';
import type { Job } from './job.ts';
import type { Reader } from './use-reader.ts';

/** The photos on their way: what each is taken to be of and why, how far it is, what is wrong with it. */
export function PhotoQueue({ reader }: { reader: Reader }) {
  const jobs = useSyncExternalStore(reader.listen, reader.jobs);
  const asking = jobs.filter(j => j.state === 'asking');
  return (
    <Box aria-live="polite" mt="3">
      {asking.length > 0 && (
        <Box mb="2">
          <Text fontWeight="700" fontSize="1.1rem">
            {agree(asking.length, 'Is this photo of that patch?', 'Are these photos of those patches?')}
          </Text>
          <Button size="xl" mt="2" colorPalette="buoy" onClick={() => reader.start(asking.map(j => j.id))}>
            {asking.length === 1 ? 'Yes, read it' : `Yes, read all ${asking.length} as they stand`}
          </Button>
        </Box>
      )}
      {jobs.map(job => (
        <JobRow key={job.id} job={job} reader={reader} />
      ))}
      {reader.busy && (
        <Button mt="2" minH="44px" variant="outline" onClick={reader.cancel}>
          Cancel reading
        </Button>
      )}
    </Box>
  );
}

const STATES = {
  looking: 'Looking at it',
  asking: 'Is it this one?',
  done: 'Read and kept',
  cancelled: 'Cancelled',
  waiting: 'Waiting',
  refused: 'Refused',
} as const;

/** Refusals after which the corners can be set by hand instead. */
const BY_HAND_HELPS = ['no-card', 'markers-hidden', 'no-plane', 'card-bent', 'no-white'];

/** One photo on its way; the others need not look again while it goes on. */
const JobRow = memo(function JobRow({ job, reader }: { job: Job; reader: Reader }) {
  const { plan } = useTrial();
  const [isByHand, setByHand] = useState(false);
  const code = job.aim && 'code' in job.aim ? job.aim.code : undefined;
  const isOpen = job.state === 'asking' || job.state === 'refused' || job.state === 'cancelled';
  return (
    <Box py="2" borderTopWidth="1px">
      <Flex gap="3" align="center" wrap="wrap">
        <Thumbnail of={job} />
        <Box flex="1" minW="11rem">
          <Text fontWeight="700">{job.aim ? aimWords(plan, job.aim) : 'Not known yet'}</Text>
          <Text fontSize="0.95rem" color="fg.muted" truncate>
            {job.name}
          </Text>
        </Box>
        <Text>
          {job.state === 'reading' ? job.word : (job.state === 'done' && job.word) || STATES[job.state]}
        </Text>
      </Flex>
      {job.state === 'reading' && (
        <Progress.Root value={Math.round(job.share * 100)} size="sm" aria-label={`Reading ${job.name}`}>
          <Progress.Track>
            <Progress.Range bg="tide.solid" />
          </Progress.Track>
        </Progress.Root>
      )}
      {job.state === 'asking' && job.why && <Text mt="1">{job.why}</Text>}
      {job.state === 'asking' && job.isWet && (
        <Box mt="1" role="alert">
          <Text color="buoy.fg" fontWeight="700">
            {job.isWet === 'by time'
              ? 'By what was recorded it was still wet then.'
              : 'It looks damp: the ground under the picture is darker than round it.'}{' '}
            Paper that is left is invisible while it is wet.
          </Text>
          <HStack mt="1" wrap="wrap">
            <Button
              minH="44px"
              variant="outline"
              onClick={() => {
                reader.change(job.id, { isWet: undefined, taken: { ...job.taken, stage: 'wet' } });
                reader.start([job.id]);
              }}
            >
              It was wet: read it without veil
            </Button>
            <Button
              minH="44px"
              variant="outline"
              onClick={() => {
                reader.change(job.id, { isWet: undefined, isSurelyDry: true });
                reader.start([job.id]);
              }}
            >
              It was dry
            </Button>
          </HStack>
        </Box>
      )}
      {job.state === 'asking' && job.wornBy && <WornOtherwise job={job} by={job.wornBy} reader={reader} />}
      {job.problem && (
        <Text color="buoy.fg" role="alert">
          <b>
            <Said>{job.problem.say}</Said>
          </b>{' '}
          <Said>{job.problem.wayOut}</Said>
        </Text>
      )}
      {job.state === 'done' &&
        job.unread?.map(({ code: patch, problem }) => (
          <Text key={patch} color="buoy.fg">
            <b>{patch}:</b> <Said>{problemWords(problem)}</Said>
          </Text>
        ))}
      {isOpen && job.problem?.code !== 'not-a-picture' && (
        <HStack mt="2" gap="3" wrap="wrap" align="end">
          {job.aim && (
            <Choose
              label="It is of"
              value={JSON.stringify(job.aim)}
              options={aims(plan)}
              onChange={v => reader.change(job.id, { aim: JSON.parse(v) as Aim })}
            />
          )}
          {job.aim && (
            <Button minH="44px" variant="outline" onClick={() => reader.start([job.id])}>
              {job.state === 'asking' ? 'Read it' : 'Read it again'}
            </Button>
          )}
          {code && job.size && (!job.problem || BY_HAND_HELPS.includes(job.problem.code)) && (
            <Button minH="44px" variant="outline" onClick={() => setByHand(true)}>
              Set its corners by hand
            </Button>
          )}
          {code && job.state === 'refused' && !job.kept && (
            <Button minH="44px" variant="outline" onClick={() => reader.keepUnread(job.id)}>
              Keep it unread
            </Button>
          )}
          <Button minH="44px" variant="ghost" onClick={() => reader.drop(job.id)}>
            Remove
          </Button>
        </HStack>
      )}
      {isOpen && job.problem?.code === 'not-a-picture' && (
        <Button mt="1" minH="44px" variant="ghost" onClick={() => reader.drop(job.id)}>
          Remove
        </Button>
      )}
      {isByHand && job.size && code && (
        <CornersByHand
          photo={job.file}
          size={job.size}
          close={() => setByHand(false)}
          onDone={corners => {
            setByHand(false);
            reader.change(job.id, { aim: { code, corners } });
            reader.start([job.id]);
          }}
        />
      )}
    </Box>
  );
});

/** Asks whether a photo shows a patch as it was made or after a wear test, where the records say something else than was chosen. */
function WornOtherwise({ job, by, reader }: { job: Job; by: NonNullable<Job['wornBy']>; reader: Reader }) {
  const said = job.taken.worn;
  const read = (worn: WearTest | undefined) => {
    reader.change(job.id, { wornBy: undefined, taken: wornAs(job.taken, worn) });
    reader.start([job.id]);
  };
  const other = by === 'none' ? undefined : by;
  return (
    <Box mt="1" role="alert">
      <Text color="buoy.fg" fontWeight="700">
        {`By what was recorded it was ${wornWords(other)} when this was taken, not ${wornWords(said)}.`}
      </Text>
      <HStack mt="1" wrap="wrap">
        <Button minH="44px" colorPalette="buoy" onClick={() => read(other)}>
          {`Read it as ${wornWords(other)}`}
        </Button>
        <Button minH="44px" variant="outline" onClick={() => read(said)}>
          {`It was ${wornWords(said)}`}
        </Button>
      </HStack>
    </Box>
  );
}

const aimWords = (plan: TrialPlan, aim: Aim) =>
  'board' in aim ? `${carrierName(plan, aim.board)}, all patches` : aim.code;

/** All that a photo can be of: each patch, and each board as a whole. */
function aims(plan: TrialPlan): (readonly [string, string])[] {
  const patches = [...plan.patches].sort((a, b) => a.order - b.order);
  const boards = [...new Set(plan.patches.map(p => p.board))].sort((a, b) => a - b);
  return [
    ...patches.map(p => [JSON.stringify({ code: p.code }), p.code] as const),
    ...boards.map(board => [JSON.stringify({ board }), aimWords(plan, { board })] as const),
  ];
}

function Thumbnail({ of: { thumbnail, name } }: { of: Job }) {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!thumbnail) return;
    const made = URL.createObjectURL(thumbnail);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [thumbnail]);
  return (
    <Box w="72px" h="54px" bg="bg.muted" borderWidth="1px" flexShrink="0">
      {url && <img src={url} alt={name} style={{ width: '100%', height: '100%', objectFit: 'cover' }} />}
    </Box>
  );
}
