import { Progress } from '@chakra-ui/react';
import { useState } from 'react';
import { Cancelled } from '../../core/outcome/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { readTrialFile } from '../../workers/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { bringIn } from './bring-in.ts';

interface Busy {
  readonly share: number;
  readonly word: string;
  /** Nothing while it is stored: what is begun there is finished. */
  readonly cancel?: () => void;
}

/** Takes in a trial that was exported as a ZIP: opened and checked in a worker, then stored. */
export function ImportTrial() {
  const actions = useWorkshopActions(useWorkshop());
  const [busy, setBusy] = useState<Busy>();
  const tell = useNotice();
  const take = async (file: File) => {
    const control = new AbortController();
    const cancel = () => control.abort();
    setBusy({ share: 0, word: 'Opening', cancel });
    try {
      const checked = await readTrialFile(
        file,
        (share, word) => setBusy({ share: share * 0.7, word, cancel }),
        control.signal,
      );
      if (!checked.ok) return tell(asNotice(checked.problem));
      const came = await bringIn(actions, checked.value, (share, word) =>
        setBusy({ share: 0.7 + 0.3 * share, word }),
      );
      tell('problem' in came ? asNotice(came.problem) : came);
    } catch (error) {
      tell(
        error instanceof Cancelled ? { say: 'The import was stopped. Nothing was stored.' } : notSaved(error),
      );
    } finally {
      setBusy(undefined);
    }
  };
  return (
    <>
      <FileButton
        accept=".zip,application/zip"
        testId="import-file"
        onFile={file => void take(file)}
        variant="outline"
        minH="44px"
        disabled={Boolean(busy)}
      >
        Import a trial (ZIP)
      </FileButton>
      {busy && (
        <Flex w="100%" gap="3" align="center" role="status">
          <Text flex="none">{busy.word}</Text>
          <Box flex="1">
            <Progress.Root value={Math.round(busy.share * 100)} size="sm" aria-label="Import">
              <Progress.Track>
                <Progress.Range bg="tide.solid" />
              </Progress.Track>
            </Progress.Root>
          </Box>
          {busy.cancel && (
            <Button variant="outline" minH="44px" onClick={busy.cancel}>
              Stop the import
            </Button>
          )}
        </Flex>
      )}
    </>
  );
}
