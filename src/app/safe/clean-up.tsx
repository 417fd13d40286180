import { useState } from 'react';
import { useWorkshopActions, workshopOf } from '../../store/index.ts';
import { cleanUp, type Spare, spareIn } from '../../store/keep-safe.ts';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { didNotWork, useAttempt, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { sizeWords } from './where-to.ts';

/** What takes up room and is shown nowhere: looked for, listed, and taken away only when that is pressed. */
export function CleanUp() {
  const name = useWorkshop();
  const { afterTakingIn } = useWorkshopActions(name);
  const [spare, setSpare] = useState<Spare>();
  const attempt = useAttempt();
  const tell = useNotice();
  const seek = useAttempt(didNotWork);
  const look = () => seek(async () => setSpare(await spareIn(workshopOf(name))));
  const clean = (what: Spare) =>
    attempt(async () => {
      await cleanUp(workshopOf(name), what);
      setSpare(undefined);
      await afterTakingIn();
      tell({ say: 'That is gone, and its room is free.' });
    });
  const bytes = spare ? [...spare.trials, ...spare.files].reduce((sum, x) => sum + x.bytes, 0) : 0;
  const isNone = spare && !spare.trials.length && !spare.files.length;
  return (
    <Box as="section" mt="10">
      <Heading as="h2" size="xl">
        Clean up
      </Heading>
      <Text mt="1">
        Removed trials and the files of removed pictures wait here, so that they can be brought back.
      </Text>
      {!spare && (
        <Button mt="3" minH="44px" variant="outline" onClick={() => void look()}>
          Look what could go
        </Button>
      )}
      {isNone && <Text mt="3">Nothing: all that is stored is shown somewhere.</Text>}
      {spare && !isNone && (
        <Box mt="3">
          {spare.trials.map(t => (
            <Text key={t.id}>
              <b>{t.name}</b>, removed: {t.photos} photos, {sizeWords(t.bytes)}
            </Text>
          ))}
          {spare.files.length > 0 && (
            <Text>
              {spare.files.length} files of removed pictures,{' '}
              {sizeWords(spare.files.reduce((sum, f) => sum + f.bytes, 0))}
            </Text>
          )}
          <HStack mt="2" wrap="wrap">
            <Button minH="44px" variant="outline" colorPalette="buoy" onClick={() => void clean(spare)}>
              Erase these for good ({sizeWords(bytes)})
            </Button>
            <Button minH="44px" variant="ghost" onClick={() => setSpare(undefined)}>
              Leave them
            </Button>
          </HStack>
        </Box>
      )}
    </Box>
  );
}
