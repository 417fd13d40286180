import { useState } from 'react';
import type { Edit, Picture } from '../../core/artwork/index.ts';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';

/** What is done to the picture: tools that add to the list, and the list, from which anything can be taken back. */
export function EditTools({
  picture,
  background,
  onChange,
}: {
  picture: Picture;
  background?: readonly [number, number, number];
  onChange: (edits: Edit[]) => void;
}) {
  const { edits } = picture;
  const [cut, setCut] = useState({ left: 0, top: 0, right: 0, bottom: 0 });
  const [degrees, setDegrees] = useState(0);
  const [tolerance, setTolerance] = useState(12);
  const add = (edit: Edit) => onChange([...edits, edit]);
  const canCut =
    cut.left + cut.right < 98 &&
    cut.top + cut.bottom < 98 &&
    Object.values(cut).some(v => v > 0) &&
    Object.values(cut).every(v => v >= 0);
  const tool = (name: string, edit: Edit) => (
    <Button key={name} variant="outline" size="sm" minH="40px" onClick={() => add(edit)}>
      {name}
    </Button>
  );
  return (
    <Box mt="5">
      <Heading as="h2" size="lg" mb="2">
        Change it
      </Heading>
      <HStack gap="2" wrap="wrap">
        {tool('Turn a quarter', { kind: 'turn', quarters: 1 })}
        {tool('In grey', { kind: 'grey' })}
        {tool('Invert', { kind: 'invert' })}
        {tool('Lighten', { kind: 'lighten', amount: 0.2 })}
        {tool('More contrast', { kind: 'contrast', amount: 0.25 })}
      </HStack>
      <HStack gap="2" mt="3" wrap="wrap" align="end">
        {(['left', 'top', 'right', 'bottom'] as const).map(side => (
          <Box key={side} w="6.4rem">
            <NumberChoice
              label={`Cut ${side}, %`}
              value={cut[side]}
              factor={1}
              step={1}
              limit="cutShare"
              onChange={v => setCut({ ...cut, [side]: v })}
            />
          </Box>
        ))}
        <Button
          variant="outline"
          size="sm"
          minH="40px"
          disabled={!canCut}
          onClick={() => {
            add({
              kind: 'crop',
              x: cut.left / 100,
              y: cut.top / 100,
              w: 1 - (cut.left + cut.right) / 100,
              h: 1 - (cut.top + cut.bottom) / 100,
            });
            setCut({ left: 0, top: 0, right: 0, bottom: 0 });
          }}
        >
          Crop
        </Button>
      </HStack>
      <HStack gap="2" mt="3" wrap="wrap" align="end">
        <Box w="8rem">
          <NumberChoice
            label="Straighten, degrees"
            value={degrees}
            factor={1}
            step={0.5}
            limit="degrees"
            onChange={setDegrees}
          />
        </Box>
        <Button
          variant="outline"
          size="sm"
          minH="40px"
          disabled={!degrees || Math.abs(degrees) > 45}
          onClick={() => add({ kind: 'straighten', degrees })}
        >
          Straighten
        </Button>
        <Box w="9rem">
          <NumberChoice
            label="Tolerance, steps"
            value={tolerance}
            factor={1}
            step={1}
            limit="tolerance"
            onChange={setTolerance}
          />
        </Box>
        <Button
          variant="outline"
          size="sm"
          minH="40px"
          disabled={!background || !(tolerance >= 1 && tolerance <= 80)}
          onClick={() =>
            background &&
            add({ kind: 'background', colour: [...background] as [number, number, number], tolerance })
          }
        >
          Background to white
        </Button>
      </HStack>
      {edits.length > 0 && (
        <Box mt="3">
          {edits.map((edit, i) => (
            <Flex key={i} borderTopWidth="1px" py="1" gap="3" align="center">
              <Text flex="1">
                {i + 1}. {words(edit)}
              </Text>
              <Button
                size="sm"
                variant="ghost"
                minH="40px"
                onClick={() => onChange(edits.filter((_, j) => j !== i))}
                aria-label={`Take back ${i + 1}: ${words(edit)}`}
              >
                Take back
              </Button>
            </Flex>
          ))}
          <Text color="fg.muted" fontSize="0.95rem">
            The original is kept; take back what you like, in any order.
          </Text>
        </Box>
      )}
    </Box>
  );
}

function words(edit: Edit): string {
  switch (edit.kind) {
    case 'crop':
      return `Cropped to ${Math.round(edit.w * 100)} × ${Math.round(edit.h * 100)} %`;
    case 'straighten':
      return `Straightened by ${edit.degrees}°`;
    case 'turn':
      return 'Turned a quarter';
    case 'grey':
      return 'In grey';
    case 'invert':
      return 'Inverted';
    case 'lighten':
      return 'Lightened';
    case 'contrast':
      return 'More contrast';
    case 'background':
      return 'Background to white';
  }
}
