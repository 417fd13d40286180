import { Box, Button, Flex, Heading, Text } from '@chakra-ui/react';
import localforage from 'localforage';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { freshId } from '../../core/codes/index.ts';
import { type Claimed, ClaimedSchema, keepLink, kept, PHONE_KEY, phone } from '../../phone/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { STAGES } from '../stages.tsx';
import { asNotice, failure, useNotice } from '../ui/notices.tsx';
import { takeInFile } from './trial-file.ts';

/** The page a phone opens by the code on the laptop: photos to its patches, or the trial to take along. */
export function PhonePage() {
  const [link, setLink] = useState<Claimed | undefined>(() => kept(PHONE_KEY, ClaimedSchema));
  const [problem, setProblem] = useState<string>();
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
          {problem}
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

interface Unsent {
  readonly id: string;
  readonly patch: string;
  readonly file: Blob;
}
/** Photos that could not be sent yet: kept on the phone until they were. */
const unsentStore = () => localforage.createInstance({ name: 'wet-test-phone', storeName: 'unsent' });

function Photos({ link }: { link: Claimed }) {
  const input = useRef<HTMLInputElement>(null);
  const [patch, setPatch] = useState<string>();
  const [sent, setSent] = useState<Readonly<Record<string, number>>>({});
  const [waiting, setWaiting] = useState<readonly Unsent[]>([]);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const store = useRef(unsentStore());
  useEffect(() => {
    const found: Unsent[] = [];
    store.current
      .iterate<Unsent, void>(value => void found.push(value))
      .then(() => setWaiting(before => (before.length ? before : found)))
      .catch(() => {});
  }, []);
  const send = async (list: readonly Unsent[]) => {
    setBusy(true);
    setProblem(undefined);
    for (const one of list) {
      const gone = await phone.photo(link.key, one.patch, one.file);
      if (!gone.ok) {
        setProblem(gone.problem.say);
        break;
      }
      await store.current.removeItem(one.id).catch(() => {});
      setWaiting(before => before.filter(w => w.id !== one.id));
      setSent(before => ({ ...before, [one.patch]: (before[one.patch] ?? 0) + 1 }));
    }
    setBusy(false);
  };
  const take = async (files: FileList | null) => {
    if (!files?.length || !patch) return;
    const fresh = [...files].map(file => ({ id: freshId(Math.random), patch, file }));
    for (const one of fresh) await store.current.setItem(one.id, one).catch(() => {});
    const all = [...waiting, ...fresh];
    setWaiting(all);
    await send(all);
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
          size="2xl"
          w="100%"
          minH="6rem"
          fontSize="1.6rem"
          mb="3"
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
          <Text>{problem}</Text>
          <Text>
            {waiting.length} {waiting.length === 1 ? 'photo waits' : 'photos wait'} on this phone.
          </Text>
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
              {sent[code] ? ` · ${sent[code]} sent` : ''}
            </span>
          </Button>
        ))}
      </Flex>
    </>
  );
}

function Take({ link }: { link: Claimed }) {
  const actions = useWorkshopActions('mine');
  const tell = useNotice();
  const [busy, setBusy] = useState(false);
  const [isHere, setHere] = useState(false);
  const { trial } = link.about;
  const take = async () => {
    setBusy(true);
    try {
      const file = await phone.trial(link.key);
      if (!file.ok) return tell(asNotice(file.problem));
      const came = await takeInFile(actions, file.value);
      if (!came.ok) return tell(asNotice(came.problem));
      // What the work needs is fetched now: there may be no laptop to ask at the sink.
      await Promise.all([import('../bench/bench.tsx'), ...STAGES.map(s => s.load())]);
      setHere(true);
    } catch (error) {
      tell(failure(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Text fontSize="1.15rem" mb="3">
        {isHere
          ? 'It is on this phone now, and needs no laptop. Leave this page open, or keep it among your pages.'
          : 'The trial, its records and its bench come along; the laptop keeps its own. Whoever works meanwhile, both are put together when you give it back.'}
      </Text>
      {isHere ? (
        <Button asChild size="2xl" w="100%" minH="6rem" fontSize="1.6rem" colorPalette="buoy">
          <Link to={`/w/mine/t/${trial}/bench`}>To the bench</Link>
        </Button>
      ) : (
        <Button
          size="2xl"
          w="100%"
          minH="6rem"
          fontSize="1.6rem"
          colorPalette="buoy"
          loading={busy}
          onClick={() => void take()}
        >
          Take it along
        </Button>
      )}
    </>
  );
}
