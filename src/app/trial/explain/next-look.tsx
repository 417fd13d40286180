import type { Inference } from '../../../core/diagnosis/index.ts';
import { about, type Patch } from '../../../core/trial/index.ts';
import { Box, Button, HStack, Text } from '../../ui/kit.tsx';
import { Said } from '../../ui/settings.tsx';
import { useRecord } from '../../workshop/use-record.ts';
import { useTrial } from '../view.tsx';

/** With less than this a look is not worth the walk, bits. */
const WORTH_BITS = 0.05;

/** The one look or touch that tells most between the causes, answered in one tap; and what was answered before. */
export function NextLook({ patch, ask }: { patch: Patch; ask: Inference['ask'] }) {
  const { plan, records, workshop } = useTrial();
  const record = useRecord(workshop, plan.id);
  const answered = about(records, patch.code, 'answer');
  const next = ask[0];
  const say = (cause: string, yes: boolean | null) =>
    void record.add([{ kind: 'answer', patch: patch.code, cause, yes }]);
  return (
    <Box mb="4">
      {next && next.gain >= WORTH_BITS && (
        <Box p="4" borderWidth="2px" borderColor="tide.solid">
          <Text fontWeight="700">Look at this next</Text>
          <Text fontSize="1.2rem" mb="2">
            <Said>{next.cause.check}</Said>
          </Text>
          <HStack wrap="wrap" gap="3">
            <Button
              size="xl"
              colorPalette="buoy"
              h="auto"
              py="2"
              whiteSpace="normal"
              maxW="100%"
              flexShrink={1}
              textAlign="left"
              disabled={record.busy}
              onClick={() => say(next.cause.id, true)}
            >
              It fits “{next.cause.name}”
            </Button>
            <Button
              size="xl"
              variant="outline"
              disabled={record.busy}
              onClick={() => say(next.cause.id, false)}
            >
              It does not fit
            </Button>
            <Button size="xl" variant="ghost" disabled={record.busy} onClick={() => say(next.cause.id, null)}>
              Can’t tell
            </Button>
          </HStack>
        </Box>
      )}
      {answered.length > 0 && (
        <HStack mt="2" wrap="wrap">
          <Text color="fg.muted">
            {answered.length === 1 ? 'One look was answered.' : `${answered.length} looks were answered.`}
          </Text>
          <Button
            size="sm"
            minH="44px"
            variant="outline"
            onClick={() =>
              void record.add([{ kind: 'undo', patch: patch.code, of: answered[answered.length - 1].id }])
            }
          >
            Take the last answer back
          </Button>
        </HStack>
      )}
    </Box>
  );
}
