import QRCode from 'qrcode';
import { useEffect, useRef, useState } from 'react';
import type { Outcome, Problem } from '../../core/outcome/index.ts';
import { levelsLine } from '../../core/trial/index.ts';
import {
  type Came,
  keepLink,
  kept,
  type LinkAbout,
  laptop,
  type Opened,
  OpenedSchema,
  takeInbox,
} from '../../phone/index.ts';
import { useTrial } from '../trial/view.tsx';
import { Box, Button, Flex, Heading, Text } from '../ui/kit.tsx';
import { asNotice, didNotWork, notSaved, useNotice } from '../ui/notices.tsx';
import { Said, useWrite } from '../ui/settings.tsx';

const LOOK_MS = 2000;

/** Nobody scanned the code yet; a phone is linked; the phone has stored the trial. */
type Standing = 'open' | 'linked' | 'taken';

const problemOf = (error: unknown): Problem => {
  const { say, wayOut } = notSaved(error);
  return { code: 'not-stored', say, ...(wayOut ? { wayOut } : {}) };
};

/** Runs `work` in one tab at a time, this one as soon as no other does; at once where a browser has no locks. */
const inOneTab = (name: string, signal: AbortSignal, work: () => Promise<void>): Promise<void> =>
  navigator.locks ? (navigator.locks.request(name, { signal }, work) as unknown as Promise<void>) : work();

const WORDS = {
  photos: {
    begin: 'Take photos with your phone',
    title: 'Photos from your phone',
    do: 'Scan this with your phone’s camera. Each photo comes here, to the patch you choose on the phone.',
    linked: 'Your phone is linked. Photos come in here by themselves.',
    taken: '',
  },
  trial: {
    begin: 'Take it to the sink on your phone',
    title: 'On your phone',
    do: 'Scan this with your phone’s camera: it takes the trial and its bench along, and works without the laptop.',
    linked: 'Your phone is linked. Press “Take it along” there.',
    taken:
      'Your phone has it. What it gives back is put together with what is here; nothing is lost on either side.',
  },
};

/**
 * Links a phone to this trial: a code to scan, what the network can see, and what comes from the phone. Nothing where
 * the server was not asked to link phones. `take` gets what came; what it takes is not kept on the server.
 */
export function LinkPanel({
  kind,
  offer,
  take,
}: {
  kind: LinkAbout['kind'];
  /** The file a phone takes along. */
  offer?: () => Promise<Outcome<Blob>>;
  take: (came: Came, file: Blob) => Promise<boolean>;
}) {
  const { plan } = useTrial();
  const tell = useNotice();
  const key = `wet-test-link-${kind}-${plan.id}`;
  const written = useWrite();
  const [reach, setReach] = useState<{ secure: boolean; addresses: readonly string[] }>();
  const [link, setLink] = useState<Opened | undefined>(() => kept(key, OpenedSchema));
  const [standing, setStanding] = useState<Standing>('open');
  const [problem, setProblem] = useState<Problem>();
  const [isElsewhere, setElsewhere] = useState(false);
  const [count, setCount] = useState(0);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    void laptop.ready().then(found => found.ok && setReach(found.value));
  }, []);
  const taking = useRef(take);
  taking.current = take;
  useEffect(() => {
    if (!link) return;
    let isOver = false;
    let timer: ReturnType<typeof setTimeout>;
    let woken = () => {};
    const look = async () => {
      const found = await laptop.look(link);
      if (isOver) return false;
      if (!found.ok && found.problem.code === 'ended') {
        keepLink(key, undefined);
        setLink(undefined);
        return false;
      }
      if (!found.ok) return true;
      const { claimed, taken, inbox } = found.value;
      setStanding(taken ? 'taken' : claimed ? 'linked' : 'open');
      const held = {
        fetch: (came: Came) => laptop.fetch(link, came),
        drop: (came: Came) => laptop.drop(link, came),
      };
      const came = await takeInbox(inbox, held, (one, file) => taking.current(one, file), problemOf);
      if (isOver) return false;
      if (came.stored) setCount(n => n + came.stored);
      setProblem(inbox.length > came.stored ? came.problem : undefined);
      return true;
    };
    const follow = async () => {
      setElsewhere(false);
      while (await look())
        await new Promise<void>(resolve => {
          woken = resolve;
          timer = setTimeout(resolve, LOOK_MS);
        });
    };
    // One tab of this browser follows a link: two would each keep what came.
    const stop = new AbortController();
    setElsewhere(true);
    inOneTab(`wet-test link ${link.id}`, stop.signal, follow).catch(() => {});
    return () => {
      isOver = true;
      stop.abort();
      clearTimeout(timer);
      woken();
    };
  }, [link, key]);
  if (!reach) return null;
  const begin = async () => {
    setBusy(true);
    try {
      const opened = await laptop.open({
        ...{ kind, trial: plan.id, name: plan.name },
        patches: plan.patches.map(p => ({
          code: p.code,
          words: written(levelsLine(plan, p)).slice(0, 300),
        })),
      });
      if (!opened.ok) return tell(asNotice(opened.problem));
      const file = await offer?.();
      const sent = file && (file.ok ? await laptop.offer(opened.value, file.value) : file);
      if (sent && !sent.ok) {
        // Nobody can use it: it does not stand in the way of the next.
        await laptop.close(opened.value);
        return tell(asNotice(sent.problem));
      }
      keepLink(key, opened.value);
      setStanding('open');
      setCount(0);
      setLink(opened.value);
    } catch (error) {
      tell(didNotWork(error));
    } finally {
      setBusy(false);
    }
  };
  const end = async () => {
    if (link) await laptop.close(link);
    keepLink(key, undefined);
    setLink(undefined);
  };
  const words = WORDS[kind];
  if (!link)
    return (
      <Button minH="44px" variant="outline" loading={busy} onClick={() => void begin()}>
        {words.begin}
      </Button>
    );
  return (
    <Box
      as="section"
      aria-label={words.title}
      borderWidth="2px"
      borderColor="tide.solid"
      p="4"
      my="3"
      w="100%"
    >
      <Heading as="h2" size="lg" mb="1">
        {words.title}
      </Heading>
      {isElsewhere && <Text mb="2">Another tab of this browser follows this link.</Text>}
      {problem && (
        <Box role="alert" color="buoy.fg" mb="2">
          <Text>
            <b>What came from the phone is not stored yet; it waits.</b> <Said>{problem.say}</Said>
          </Text>
          <Text>
            <Said>{problem.wayOut}</Said>
          </Text>
        </Box>
      )}
      {standing !== 'open' ? (
        <Text role="status">
          {words[standing] || words.linked}
          {count > 0 && ` ${count} came so far.`}
        </Text>
      ) : (
        <Flex gap="4" wrap="wrap" align="start">
          {reach.addresses.length ? (
            <>
              <Code words={`${reach.addresses[0]}/w/mine/phone#${link.token}`} />
              <Box flex="1" minW="16rem">
                <Text>{words.do}</Text>
                <Text mt="2" fontSize="0.95rem" wordBreak="break-all">
                  Or open{' '}
                  <b data-testid="phone-address">{`${reach.addresses[0]}/w/mine/phone#${link.token}`}</b>
                </Text>
                <Text mt="2" color="fg.muted">
                  The code is good once, for ten minutes.{' '}
                  {reach.secure
                    ? 'What is sent is encrypted with your own certificate.'
                    : 'Others in this network could see what is sent: use it at home, not in a café.'}
                </Text>
              </Box>
            </>
          ) : (
            <Text>
              This laptop is in no network now. Join the one your phone is in, then open the page anew.
            </Text>
          )}
        </Flex>
      )}
      <Button mt="3" minH="44px" variant="outline" onClick={() => void end()}>
        End the link
      </Button>
    </Box>
  );
}

/** Words as a code for a camera. */
function Code({ words }: { words: string }) {
  const { modules } = QRCode.create(words, { errorCorrectionLevel: 'M' });
  const cells = Array.from(modules.data, (on, i) =>
    on ? `M${i % modules.size} ${Math.floor(i / modules.size)}h1v1h-1z` : '',
  ).join('');
  return (
    <svg
      viewBox={`-3 -3 ${modules.size + 6} ${modules.size + 6}`}
      role="img"
      aria-label="Code to scan with your phone"
      style={{ width: '13rem', background: '#fff', flex: 'none' }}
    >
      <path d={cells} fill="#000" shapeRendering="crispEdges" />
    </svg>
  );
}
