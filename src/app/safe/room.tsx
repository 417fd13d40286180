import { useEffect, useState } from 'react';
import { Box, Button, Heading, Text } from '../ui/kit.tsx';
import { useNotice } from '../ui/notices.tsx';
import { sizeWords } from './where-to.ts';

interface Told {
  readonly used?: number;
  readonly left?: number;
  readonly isLasting: boolean;
}

async function asked(): Promise<Told> {
  const { usage, quota } = (await navigator.storage?.estimate?.()) ?? {};
  const isLasting = (await navigator.storage?.persisted?.()) ?? false;
  return {
    isLasting,
    ...(usage === undefined ? {} : { used: usage }),
    ...(usage === undefined || quota === undefined ? {} : { left: quota - usage }),
  };
}

/** How much this browser keeps for us, how much it would, and whether it may throw it away when it is short of room. */
export function Room() {
  const [room, setRoom] = useState<Told>();
  const tell = useNotice();
  useEffect(() => {
    asked().then(setRoom, () => {});
  }, []);
  if (!room) return null;
  const keep = async () => {
    const may = (await navigator.storage?.persist?.()) ?? false;
    setRoom(await asked());
    tell(
      may
        ? { say: 'The browser will keep it until you take it away yourself.' }
        : { say: 'The browser would not promise that. A backup does.', wrong: true },
    );
  };
  return (
    <Box as="section" mt="10">
      <Heading as="h2" size="xl">
        Room in this browser
      </Heading>
      <Text mt="1">
        {room.used === undefined
          ? 'This browser does not say how much is stored.'
          : `About ${sizeWords(room.used)} are stored${room.left === undefined ? '' : `; about ${sizeWords(room.left)} more would fit`}.`}{' '}
        {room.isLasting
          ? 'It is kept until you take it away yourself.'
          : 'When the machine runs short of room the browser may throw it away.'}
      </Text>
      {!room.isLasting && (
        <Button mt="3" minH="44px" variant="outline" onClick={() => void keep()}>
          Ask the browser to keep it
        </Button>
      )}
    </Box>
  );
}
