import { Box, Button, Flex, Heading, HStack, Progress, Text } from '@chakra-ui/react';
import { type ChangeEvent, useEffect, useRef, useState } from 'react';
import { mostRounds, progressOf, roundNow } from '../../../core/progress/index.ts';
import { WEAR } from '../../../core/steps/index.ts';
import { about, levelNames, pictureOn, readingOf, settingsOf } from '../../../core/trial/index.ts';
import { warmUpReader } from '../../../workers/index.ts';
import { Choose } from '../../ui/choose.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';
import { ReadingPanel } from './reading-panel.tsx';
import { type Job, useReader } from './use-reader.ts';

/** Stage "Read": photos in, numbers and maps out, one patch at a time or many at once. */
export function ReadStage() {
  const view = useTrial();
  const { plan, records, selected, select } = view;
  const reader = useReader(view);
  const [warm, setWarm] = useState<'warming' | 'ready' | 'failed'>('warming');
  const [look, setLook] = useState<string>('dry');
  const worn = plan.wear.find(test => test === look);
  const stage = look === 'wet' ? 'wet' : 'dry';
  const { lines } = progressOf(plan, records);
  const own = lines.find(l => l.patch.code === selected?.code);
  const most = mostRounds(lines);
  const [chosen, setChosen] = useState<{ readonly patch: string | undefined; readonly round: number }>();
  // Another patch may be another round further on.
  const round =
    chosen && chosen.patch === selected?.code ? chosen.round : own ? roundNow(own) : Math.max(1, most);
  const [over, setOver] = useState(false);
  useEffect(() => {
    warmUpReader().then(
      () => setWarm('ready'),
      () => setWarm('failed'),
    );
  }, []);
  const take = (list: FileList | null) => {
    const roundOf = (code: string) => {
      const line = lines.find(l => l.patch.code === code);
      return chosen?.patch === selected?.code && chosen ? chosen.round : line ? roundNow(line) : round;
    };
    if (list?.length) void reader.readFiles([...list], stage, roundOf, worn);
  };
  const isRead = (code: string) => readingOf(records, code) !== undefined;
  const targets = plan.patches.filter(p => !pictureOn(plan, p));
  const read = targets.filter(p => isRead(p.code)).length;
  const next = plan.patches.find(p =>
    pictureOn(plan, p) ? !about(records, p.code, 'photo').length : !isRead(p.code),
  );
  return (
    <Box
      onDragOver={e => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={e => {
        e.preventDefault();
        setOver(false);
        take(e.dataTransfer.files);
      }}
    >
      <Text fontSize="1.15rem" mb="2">
        {targets.length > 0 && `${read} of ${targets.length} patches read. `}
        {targets.length < plan.patches.length &&
          'Patches with your own picture keep their photos; they are judged by eye. '}
        {selected ? (
          <>
            Photos now go to <b>{selected.code}</b> (<Said>{levelNames(plan, selected).join(', ')}</Said>).
          </>
        ) : (
          'Choose a patch on the board, or drop photos whose names hold the patch codes.'
        )}
      </Text>
      {!selected && next && (
        <Button mb="3" minH="44px" variant="outline" onClick={() => select(next.code)}>
          Start with {next.code}
        </Button>
      )}
      <HStack gap="3" mb="3" wrap="wrap" align="end">
        <Choose
          label="The patch is"
          value={look}
          onChange={setLook}
          options={[
            ['dry', plan.wear.length ? 'dry, as it was made' : 'dry'],
            ['wet', 'still wet'],
            ...plan.wear.map(test => [test, `dry, after: ${WEAR[test].name.toLowerCase()}`] as const),
          ]}
        />
        {most > 1 && (
          <Choose
            label="After round"
            value={String(round)}
            onChange={v => setChosen({ patch: selected?.code, round: Number(v) })}
            options={Array.from({ length: most }, (_, i) => [String(i + 1), `${i + 1} of ${most}`])}
          />
        )}
      </HStack>
      <TakePhotos
        over={over}
        busy={reader.busy}
        canSimulate={
          (selected ? settingsOf(plan, selected).method : plan.used.method).simulated &&
          !worn &&
          !(selected && pictureOn(plan, selected))
        }
        canAim={Boolean(selected)}
        onTake={take}
        onSimulate={() => selected && reader.simulate(selected, stage, round)}
      />
      <Box aria-live="polite" mt="3">
        {warm === 'warming' && (
          <Text color="fg.muted">The image reader is warming up; you can choose photos already.</Text>
        )}
        {warm === 'failed' && (
          <Text color="buoy.fg">The image reader could not start. Load the page again.</Text>
        )}
        {reader.jobs.map(job => (
          <JobLine key={job.id} job={job} />
        ))}
        {reader.busy && (
          <Button mt="2" minH="44px" variant="outline" onClick={reader.cancel}>
            Cancel reading
          </Button>
        )}
      </Box>
      {selected ? (
        <ReadingPanel key={selected.code} patch={selected} />
      ) : (
        <Box mt="6">
          <Heading as="h2" size="lg">
            No patch chosen
          </Heading>
          <Text color="fg.muted">Its photo, its bare patches and its veil will show here.</Text>
        </Box>
      )}
    </Box>
  );
}

/** Photos from files or the camera, or a practice photo. */
function TakePhotos({
  over,
  busy,
  canSimulate,
  canAim,
  onTake,
  onSimulate,
}: {
  over: boolean;
  busy: boolean;
  canSimulate: boolean;
  canAim: boolean;
  onTake: (files: FileList | null) => void;
  onSimulate: () => void;
}) {
  const files = useRef<HTMLInputElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const taken = (e: ChangeEvent<HTMLInputElement>) => {
    onTake(e.target.files);
    e.target.value = '';
  };
  return (
    <Box borderWidth="2px" borderStyle="dashed" borderColor={over ? 'buoy.solid' : 'border'} p="4">
      <HStack gap="3" wrap="wrap">
        <Button size="xl" colorPalette="buoy" onClick={() => files.current?.click()} disabled={busy}>
          Choose photos
        </Button>
        <Button
          size="xl"
          variant="outline"
          onClick={() => camera.current?.click()}
          disabled={busy || !canAim}
          display={{ lg: 'none' }}
        >
          Take a photo
        </Button>
        {canSimulate && (
          <Button size="xl" variant="outline" onClick={onSimulate} disabled={busy || !canAim}>
            Simulated camera
          </Button>
        )}
      </HStack>
      <Text color="fg.muted" mt="2">
        Or drop them here. Lay the reading card over the patch and take the whole card into the picture.{' '}
        {canSimulate
          ? 'The simulated camera makes a practice photo and says so.'
          : 'The simulated camera makes practice photos of fresh wet-rub patches only, so far.'}
      </Text>
      <input
        ref={files}
        type="file"
        accept="image/*"
        multiple
        hidden
        data-testid="photo-files"
        onChange={taken}
      />
      <input ref={camera} type="file" accept="image/*" capture="environment" hidden onChange={taken} />
    </Box>
  );
}

const STATES = {
  done: 'Read and kept',
  cancelled: 'Cancelled',
  waiting: 'Waiting',
  refused: 'Refused',
} as const;

function JobLine({ job }: { job: Job }) {
  return (
    <Box py="2" borderTopWidth="1px">
      <Flex gap="3" align="baseline" wrap="wrap">
        <Text fontWeight="700">{job.patch}</Text>
        <Text flex="1" minW="10rem" truncate>
          {job.name}
        </Text>
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
      {job.problem && (
        <Text color="buoy.fg" role="alert">
          <b>{job.problem.say}</b> {job.problem.wayOut}
        </Text>
      )}
    </Box>
  );
}
