import { Box, Button, Flex, Heading, Text } from '@chakra-ui/react';
import QRCode from 'qrcode';
import { useEffect, useRef, useState } from 'react';
import type { Outcome } from '../../core/outcome/index.ts';
import { levelNames } from '../../core/trial/index.ts';
import {
  type Came,
  keepLink,
  kept,
  type LinkAbout,
  laptop,
  type Opened,
  OpenedSchema,
} from '../../phone/index.ts';
import { useTrial } from '../trial/view.tsx';
import { asNotice, failure, useNotice } from '../ui/notices.tsx';

const LOOK_MS = 2000;

const WORDS = {
  photos: {
    begin: 'Take photos with your phone',
    title: 'Photos from your phone',
    do: 'Scan this with your phone’s camera. Each photo comes here, to the patch you choose on the phone.',
    linked: 'Your phone is linked. Photos come in here by themselves.',
  },
  trial: {
    begin: 'Take it to the sink on your phone',
    title: 'On your phone',
    do: 'Scan this with your phone’s camera: it takes the trial and its bench along, and works without the laptop.',
    linked:
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
  const [reach, setReach] = useState<{ secure: boolean; addresses: readonly string[] }>();
  const [link, setLink] = useState<Opened | undefined>(() => kept(key, OpenedSchema));
  const [isLinked, setLinked] = useState(false);
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
    const look = async () => {
      const found = await laptop.look(link);
      if (isOver) return;
      if (!found.ok && found.problem.code === 'ended') {
        keepLink(key, undefined);
        setLink(undefined);
        return;
      }
      if (found.ok) {
        setLinked(found.value.claimed);
        for (const came of found.value.inbox) {
          const file = await laptop.fetch(link, came);
          if (isOver || !file.ok) break;
          if (await taking.current(came, file.value)) {
            await laptop.drop(link, came);
            setCount(n => n + 1);
          }
        }
      }
      timer = setTimeout(() => void look(), LOOK_MS);
    };
    void look();
    return () => {
      isOver = true;
      clearTimeout(timer);
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
          words: levelNames(plan, p).join(', ').slice(0, 300),
        })),
      });
      if (!opened.ok) return tell(asNotice(opened.problem));
      const file = await offer?.();
      const sent = file && (file.ok ? await laptop.offer(opened.value, file.value) : file);
      if (sent && !sent.ok) return tell(asNotice(sent.problem));
      keepLink(key, opened.value);
      setLinked(false);
      setCount(0);
      setLink(opened.value);
    } catch (error) {
      tell(failure(error));
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
      {isLinked ? (
        <Text role="status">
          {words.linked}
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
