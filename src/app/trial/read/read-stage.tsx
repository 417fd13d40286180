import { type ChangeEvent, useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { wornBy } from '../../../core/photos/index.ts';
import { mostRounds, progressOf, roundNow } from '../../../core/progress/index.ts';
import { within } from '../../../core/say/index.ts';
import { WEAR } from '../../../core/steps/index.ts';
import { levelsLine, readingOf, unitOf } from '../../../core/trial/index.ts';
import { presentMs } from '../../../store/index.ts';
import { warmUpReader } from '../../../workers/index.ts';
import { LinkPanel } from '../../phone/link-panel.tsx';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Heading, HStack, Text } from '../../ui/kit.tsx';
import { didNotWork, useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';
import { GroundLine } from './ground-line.tsx';
import { canShowCamera, LiveCamera } from './live-camera.tsx';
import { PhotoQueue } from './photo-queue.tsx';
import { ReadingPanel } from './reading-panel.tsx';
import { practiceBoard, practicePhoto } from './simulate.ts';
import { useBenchPhotos } from './use-bench-photos.ts';
import { useReader } from './use-reader.ts';

/** Stage "Read": photos in, numbers and maps out, one patch at a time or many at once. */
export function ReadStage() {
  const view = useTrial();
  const { plan, records, selected, select } = view;
  const reader = useReader(view);
  const [warm, setWarm] = useState<'warming' | 'ready' | 'failed'>('warming');
  const [said, setLook] = useState<{ readonly patch: string | undefined; readonly look: string }>();
  // That one patch was worn says nothing of another; light and water go on from one to the next.
  const isSaid = said !== undefined && (['wet', 'bare'].includes(said.look) || said.patch === selected?.code);
  const proposed = selected && wornBy(view, selected.code, presentMs());
  const look = isSaid ? said.look : (proposed ?? 'dry');
  const worn = plan.wear.find(test => test === look);
  const stage = look === 'wet' || look === 'bare' ? look : 'dry';
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
  const taken = {
    stage,
    ...(worn ? { worn } : {}),
    isProposed: !isSaid,
    roundOf: (code: string) => {
      const line = lines.find(l => l.patch.code === code);
      return chosen?.patch === selected?.code && chosen ? chosen.round : line ? roundNow(line) : round;
    },
  } as const;
  const take = (list: FileList | readonly File[] | null) => {
    if (list?.length) reader.add([...list], taken);
  };
  const tell = useNotice();
  const simulate = async () => {
    if (!selected) return;
    try {
      reader.add([await practicePhoto(view, selected, stage, round, worn)], {
        ...taken,
        roundOf: () => round,
      });
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  const simulateBoard = async () => {
    try {
      if (stage === 'bare') return;
      const board = selected?.board ?? next?.board ?? 0;
      reader.add([await practiceBoard(view, board, stage, taken.roundOf)], taken);
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  useBenchPhotos(view, reader, warm === 'ready');
  // Listens anew each time: what it would take may have changed.
  useEffect(() => {
    const pasted = (e: ClipboardEvent) => {
      const files = [...(e.clipboardData?.files ?? [])];
      if (files.length) take(files);
    };
    window.addEventListener('paste', pasted);
    return () => window.removeEventListener('paste', pasted);
  });
  const isRead = (code: string) => readingOf(records, code) !== undefined;
  const read = plan.patches.filter(p => isRead(p.code)).length;
  const next = plan.patches.find(p => !isRead(p.code));
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
        {`${read} of ${plan.patches.length} ${unitOf(plan).many} read. `}
        {selected ? (
          <>
            Photos now go to <b>{selected.code}</b> (<Said>{levelsLine(plan, selected)}</Said>).
          </>
        ) : (
          `Choose a ${unitOf(plan).one} on the board, or drop photos: each finds its ${unitOf(plan).one} by its label, its name, or the board’s corner pieces.`
        )}
      </Text>
      <HStack gap="3" mb="3" wrap="wrap">
        {!selected && next && (
          <Button minH="44px" variant="outline" onClick={() => select(next.code)}>
            Start with {next.code}
          </Button>
        )}
        <LinkPanel
          kind="photos"
          take={({ id, patch }, file) =>
            // Its name says of which patch it is, as any photo’s may.
            reader.keep(id, new File([file], `${patch ?? 'photo'}.jpg`, { type: 'image/jpeg' }), taken)
          }
        />
        {read > 0 && (
          <Button asChild minH="44px" variant="outline">
            <Link to={`/w/${view.workshop}/wall?trial=${plan.id}`}>The wall: all side by side</Link>
          </Button>
        )}
      </HStack>
      {selected && <GroundLine code={selected.code} />}
      {selected && isRead(selected.code) && (
        <ReadingPanel key={selected.code} patch={selected} reader={reader} />
      )}
      <HStack gap="3" mt="3" mb="3" wrap="wrap" align="end">
        <Choose
          label="The patch is"
          value={look}
          onChange={chosenLook => setLook({ patch: selected?.code, look: chosenLook })}
          options={[
            ['dry', plan.wear.length ? 'dry, as it was made' : 'dry'],
            ['wet', 'still wet'],
            ['bare', 'bare ground, lamp at its side'],
            ...plan.wear.map(test => [test, `dry, after: ${within(WEAR[test].name)}`] as const),
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
        canSimulateBoard={!worn && stage !== 'bare'}
        canAim={Boolean(selected)}
        onTake={take}
        onSimulate={() => void simulate()}
        onSimulateBoard={() => void simulateBoard()}
      />
      <Box aria-live="polite" mt="3">
        {warm === 'warming' && (
          <Text color="fg.muted">The image reader is warming up; you can choose photos already.</Text>
        )}
        {warm === 'failed' && (
          <Text color="buoy.fg">The image reader could not start. Load the page again.</Text>
        )}
      </Box>
      <PhotoQueue reader={reader} />
      {selected ? (
        !isRead(selected.code) && <ReadingPanel key={selected.code} patch={selected} reader={reader} />
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
  canSimulateBoard,
  canAim,
  onTake,
  onSimulate,
  onSimulateBoard,
}: {
  over: boolean;
  canSimulateBoard: boolean;
  canAim: boolean;
  onTake: (files: FileList | readonly File[] | null) => void;
  onSimulate: () => void;
  onSimulateBoard: () => void;
}) {
  const files = useRef<HTMLInputElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const [isLive, setLive] = useState(false);
  const taken = (e: ChangeEvent<HTMLInputElement>) => {
    onTake(e.target.files);
    e.target.value = '';
  };
  return (
    <Box borderWidth="2px" borderStyle="dashed" borderColor={over ? 'buoy.solid' : 'border'} p="4">
      <HStack gap="3" wrap="wrap">
        <Button size="xl" colorPalette="buoy" onClick={() => files.current?.click()}>
          Choose photos
        </Button>
        <Button
          size="xl"
          variant="outline"
          onClick={() => (canShowCamera() ? setLive(true) : camera.current?.click())}
          disabled={!canAim}
        >
          Take a photo
        </Button>
        <Button size="xl" variant="outline" onClick={onSimulate} disabled={!canAim}>
          Simulated camera
        </Button>
        {canSimulateBoard && (
          <Button size="xl" variant="outline" onClick={onSimulateBoard}>
            Simulated board photo
          </Button>
        )}
      </HStack>
      {isLive && (
        <LiveCamera
          onTake={photo => onTake([photo])}
          close={() => setLive(false)}
          instead={() => {
            setLive(false);
            camera.current?.click();
          }}
        />
      )}
      <Text color="fg.muted" mt="2">
        Or drop or paste them here. Lay the reading card over the patch and take the whole card into the
        picture; or lay the four corner pieces at the board and take all of it in one photo. The simulated
        camera makes practice photos and says so.
      </Text>
      <input
        ref={files}
        type="file"
        accept="image/*,.heic,.heif"
        multiple
        hidden
        data-testid="photo-files"
        onChange={taken}
      />
      <input ref={camera} type="file" accept="image/*" capture="environment" hidden onChange={taken} />
    </Box>
  );
}
