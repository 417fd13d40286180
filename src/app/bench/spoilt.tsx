import { Box, Flex, Text } from '@chakra-ui/react';
import type { Patch } from '../../core/trial/index.ts';
import type { RecordDraft } from '../../store/index.ts';
import { Big, Frame } from './aside-frame.tsx';

/** What can have happened, and whether it was a slip of the hand: that says nothing of what was tried; the rest does. */
const WHYS: readonly (readonly [why: string, slip: boolean])[] = [
  ['It tore', false],
  ['It smeared', false],
  ['It would not work', false],
  ['It slipped from me', true],
  ['I touched it', true],
  ['Wrong side or piece', true],
];

/** Writes a patch off, and asks whether what was tried failed or the hand slipped. */
export function Spoilt({
  patch,
  keep,
  close,
}: {
  patch: Patch;
  keep: (drafts: readonly RecordDraft[]) => Promise<unknown>;
  close: () => void;
}) {
  return (
    <Frame title={`Write ${patch.code} off? What happened?`} close={close}>
      {[false, true].map(slip => (
        <Box key={String(slip)} w="100%">
          <Text fontWeight="700" mb="1">
            {slip
              ? 'My slip: it says nothing of what was tried'
              : 'It failed: that counts against what was tried'}
          </Text>
          <Flex gap="3" wrap="wrap">
            {WHYS.filter(w => w[1] === slip).map(([why]) => (
              <Big key={why} onClick={() => void keep([{ kind: 'spoilt', patch: patch.code, why, slip }])}>
                {why}
              </Big>
            ))}
          </Flex>
        </Box>
      ))}
    </Frame>
  );
}
