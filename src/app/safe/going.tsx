import { Progress } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { Cancelled } from '../../core/outcome/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { didNotWork, notSaved, useNotice } from '../ui/notices.tsx';

interface Going {
  readonly tell: (share: number, word: string) => void;
  readonly signal: AbortSignal;
}

/** One long job at a time: how far it is, a way to stop it, and a word when it fails: that it was not saved, where it writes (`saves`). */
export function useGoing(stoppedWords: string, saves: boolean) {
  const [now, setNow] = useState<{ readonly share: number; readonly word: string }>();
  const control = useRef<AbortController>(undefined);
  const tell = useNotice();
  const run = async (work: (going: Going) => Promise<void>) => {
    const own = new AbortController();
    control.current = own;
    setNow({ share: 0, word: 'Beginning' });
    try {
      await work({ tell: (share, word) => setNow({ share, word }), signal: own.signal });
    } catch (error) {
      tell(error instanceof Cancelled ? { say: stoppedWords } : (saves ? notSaved : didNotWork)(error));
    } finally {
      setNow(undefined);
    }
  };
  return { now, run, stop: () => control.current?.abort() };
}

/** How far a long job is, with a way to stop it. */
export function GoingOn({ going, label }: { going: ReturnType<typeof useGoing>; label: string }) {
  if (!going.now) return null;
  return (
    <Flex mt="3" gap="3" align="center" role="status" wrap="wrap">
      <Text minW="14rem">{going.now.word}</Text>
      <Box flex="1" minW="10rem">
        <Progress.Root value={Math.round(going.now.share * 100)} size="sm" aria-label={label}>
          <Progress.Track>
            <Progress.Range bg="tide.solid" />
          </Progress.Track>
        </Progress.Root>
      </Box>
      <Button variant="outline" minH="44px" onClick={going.stop}>
        Stop
      </Button>
    </Flex>
  );
}
