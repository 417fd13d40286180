import { sizeOf } from '../../core/trial/index.ts';
import { Box, Text } from '../ui/kit.tsx';
import { PatchFace } from './patch-face.tsx';

/** What a patch carries, as it should look when it is finished; to stand beside it as it is. */
export function AsItShouldBe(face: Parameters<typeof PatchFace>[0]) {
  const { w, h } = sizeOf(face.plan);
  return (
    <Box>
      <Box borderWidth="1px">
        <svg viewBox={`0 0 ${w} ${h}`} width="100%" role="img" aria-label="As it should be">
          <PatchFace {...face} />
        </svg>
      </Box>
      <Text fontSize="0.95rem">As it should be</Text>
    </Box>
  );
}
