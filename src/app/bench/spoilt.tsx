import type { Patch } from '../../core/trial/index.ts';
import type { RecordDraft } from '../../store/index.ts';
import { Box, Flex, Text } from '../ui/kit.tsx';
import { Big, Frame } from './aside-frame.tsx';
import { WHYS, whyHeading } from './bench.model.ts';

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
            {whyHeading(slip)}
          </Text>
          <Flex gap="3" wrap="wrap">
            {WHYS.filter(w => w.slip === slip).map(({ why }) => (
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
