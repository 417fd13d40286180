import localforage from 'localforage';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { freshId } from '../../core/codes/index.ts';
import type { Words } from '../../core/say/index.ts';
import { many, write } from '../../core/say/index.ts';
import { type Claimed, ClaimedSchema, keepLink, kept, PHONE_KEY, phone } from '../../phone/index.ts';
import { fetchAhead, usePlan, useWorkshopActions } from '../../store/index.ts';
import { BIG } from '../phone/big.ts';
import { GiveBackButton } from '../phone/give-back.tsx';
import { takeInFile } from '../phone/trial-file.ts';
import { STAGES } from '../stages/index.ts';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { afterLook, type Photo, sentWords } from './sending.ts';

/** The page a phone opens by the code on the laptop: photos to its patches, or the trial to take along. */
export function PhonePage() {
  const [link, setLink] = useState<Claimed | undefined>(() => kept(PHONE_KEY, ClaimedSchema));
  const [problem, setProblem] = useState<Words>();
  const began = useRef(false);
  useEffect(() => {
    const token = location.hash.slice(1);
    if (!token || began.current) return;
    began.current = true;
    // The code is good once: it is not left in the address to be opened again.
    history.replaceState(history.state, '', location.pathname);
    void phone.claim(token).then(claimed => {
      if (!claimed.ok) return setProblem(claimed.problem.say);
      keepLink(PHONE_KEY, claimed.value);
      setLink(claimed.value);
    });
  }, []);
  return (
    <Box px="4" pt="3" pb="24" maxW="40rem">
      <Heading as="h1" size="2xl" mb="2">
        {link ? link.about.name : 'Your phone and the laptop'}
      </Heading>
      {problem && (
        <Text role="alert" color="buoy.fg" fontSize="1.15rem" mb="3">
          <Said>{problem}</Said>
        </Text>
      )}
      {!link && !problem && (
        <Text fontSize="1.15rem">
          On the laptop, choose “Take photos with your phone” under Read, or “Take it to the sink on your
          phone” under Make, and scan the code with this phone’s camera.
        </Text>
      )}
      {link?.about.kind === 'photos' && <Photos key={link.key} link={link} />}
      {link?.about.kind === 'trial' && <Take key={link.key} link={link} />}
    </Box>
  );
}

/** Photos that the laptop has not stored yet: kept on the phone until it has. */
const photoStore = () => localforage.createInstance({ name: 'wet-test-phone', storeName: 'unsent' });
/** How often the phone asks what became of what it sent, ms. */
const ASK_MS = 2500;

function Photos({ link }: { link: Claimed }) {
  const input = useRef<HTMLInputElement>(null);
  const [patch, setPatch] = useState<string>();
  const [sent, setSent] = useState<Readonly<Record<string, number>>>({});
  const [photos, setPhotos] = useState<readonly Photo[]>([]);
  const [problem, setProblem] = useState<Words>();
  const [busy, setBusy] = useState(false);
  const store = useRef(photoStore());
  const waiting = photos.filter(p => !p.isSent);
  const onWay = photos.filter(p => p.isSent);
  useEffect(() => {
    const found: Photo[] = [];
    store.current
      .iterate<Photo, void>(value => void found.push(value))
      .then(() => setPhotos(before => (before.length ? before : found)))
      .catch(() => {});
  }, []);
  const put = (one: Photo) => store.current.setItem(one.id, one).catch(() => {});
  const hasOnWay = onWay.length > 0;
  useEffect(() => {
    if (!hasOnWay) return;
    const timer = setInterval(() => {
      void phone.waiting(link.key).then(found => {
        const isOver = !found.ok && found.problem.code === 'ended';
        if (!found.ok && !isOver) return;
        if (isOver) setProblem(found.problem.say);
        setPhotos(before => {
          const { stored, left } = afterLook(before, found.ok ? found.value.waiting : null);
          if (!stored.length && !isOver) return before;
          for (const one of stored) void store.current.removeItem(one.id).catch(() => {});
          setSent(counts => countedIn(counts, stored));
          return left;
        });
      });
    }, ASK_MS);
    return () => clearInterval(timer);
  }, [hasOnWay, link.key]);
  const send = async (list: readonly Photo[]) => {
    setBusy(true);
    setProblem(undefined);
    for (const one of list) {
      const gone = await phone.photo(link.key, one.id, one.patch, one.file);
      if (!gone.ok) {
        setProblem(gone.problem.say);
        break;
      }
      const on = { ...one, isSent: true };
      await put(on);
      setPhotos(before => before.map(p => (p.id === one.id ? on : p)));
    }
    setBusy(false);
  };
  const take = async (files: FileList | null) => {
    if (!files?.length || !patch) return;
    const fresh = [...files].map(file => ({ id: freshId(Math.random), patch, file }));
    for (const one of fresh) await put(one);
    setPhotos(before => [...before, ...fresh]);
    await send([...waiting, ...fresh]);
  };
  return (
    <>
      <Text fontSize="1.15rem" mb="3">
        Choose the patch that lies before you, then photograph it through the card.
      </Text>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        data-testid="phone-photo"
        onChange={e => {
          void take(e.target.files);
          e.target.value = '';
        }}
      />
      {patch && (
        <Button
          {...BIG}
          position="sticky"
          top="2"
          zIndex="docked"
          colorPalette="buoy"
          loading={busy}
          onClick={() => input.current?.click()}
        >
          Photograph {patch}
        </Button>
      )}
      {problem && (
        <Box role="alert" borderWidth="2px" borderColor="buoy.solid" p="3" mb="3">
          <Text>
            <Said>{problem}</Said>
          </Text>
          <Text>{write(many(waiting.length, 'photo waits', 'photos wait'))} on this phone.</Text>
          <Button mt="2" minH="48px" variant="outline" loading={busy} onClick={() => void send(waiting)}>
            Send again
          </Button>
        </Box>
      )}
      <Flex direction="column" gap="2">
        {link.about.patches.map(({ code, words }) => (
          <Button
            key={code}
            minH="56px"
            h="auto"
            py="2"
            justifyContent="start"
            textAlign="left"
            whiteSpace="normal"
            variant={patch === code ? 'solid' : 'outline'}
            colorPalette="tide"
            aria-pressed={patch === code}
            onClick={() => setPatch(code)}
          >
            <b>{code}</b>
            <span>
              {words}
              {sentWords(sent[code] ?? 0, onWay.filter(p => p.patch === code).length)}
            </span>
          </Button>
        ))}
      </Flex>
    </>
  );
}

/** Counts by patch, with these added. */
function countedIn(counts: Readonly<Record<string, number>>, photos: readonly Photo[]) {
  const next = { ...counts };
  for (const { patch } of photos) next[patch] = (next[patch] ?? 0) + 1;
  return next;
}

function Take({ link }: { link: Claimed }) {
  const actions = useWorkshopActions('mine');
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const { trial } = link.about;
  const [came, setCame] = useState(false);
  // It may be here from an earlier link, with work on it: the laptop was restarted meanwhile, or the link ran out.
  const before = usePlan('mine', trial).data;
  const isHere = came || Boolean(before?.ok);
  const take = async () => {
    setBusy(true);
    try {
      const file = await phone.trial(link.key);
      if (!file.ok) return tell(asNotice(file.problem));
      const taken = await takeInFile(actions, file.value);
      if (!taken.ok) return tell(asNotice(taken.problem));
      await phone.stored(link.key);
      // What the work needs is fetched now: there may be no laptop to ask at the sink.
      await Promise.all([
        fetchAhead(),
        import('../bench/bench.tsx'),
        import('../bench/asides.tsx'),
        import('../bench/learnt-wait.tsx'),
        import('../trial/frame/frame.tsx'),
        import('../home/opening.tsx'),
        import('../trial/make/drying-line.tsx'),
        ...STAGES.map(s => s.load()),
      ]);
      setCame(true);
    } catch (error) {
      tell(notSaved(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Text fontSize="1.15rem" mb="3">
        {came
          ? 'It is on this phone now, and needs no laptop. Leave this page open, or keep it among your pages.'
          : isHere
            ? 'This phone has this trial from before. Give it back, so that the laptop has what you did here; or take along what the laptop did meanwhile. Nothing is lost either way.'
            : 'The trial, its records and its bench come along; the laptop keeps its own. Whoever works meanwhile, both are put together when you give it back.'}
      </Text>
      {isHere && (
        <Button asChild {...BIG} colorPalette="buoy" variant={came ? 'solid' : 'outline'}>
          <Link to={`/w/mine/t/${trial}/bench`}>To the bench</Link>
        </Button>
      )}
      {isHere && <GiveBackButton link={link} big={!came} />}
      {!came && (
        <Button
          {...BIG}
          colorPalette="buoy"
          variant={isHere ? 'outline' : 'solid'}
          loading={busy}
          onClick={() => void take()}
        >
          {isHere ? 'Take along what is new' : 'Take it along'}
        </Button>
      )}
    </>
  );
}
