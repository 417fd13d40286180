import { Link } from 'react-router';
import { RESPONSES } from '../../core/measures/index.ts';
import { joined, percent, say, type Words, within, write } from '../../core/say/index.ts';
import type { WallPatch } from '../../core/wall/index.ts';
import { usePhotoUrl } from '../../store/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
import type { useWorkshop } from '../workshop/workshop.ts';

export const keyOf = (p: WallPatch) => `${p.trial}/${p.record}`;
export const headline = (p: WallPatch): Words =>
  p.values.landed == null ? 'not given' : say`${percent(p.values.landed, { places: 0 })} landed`;
export const levelsOf = (p: WallPatch): Words =>
  joined(
    Object.values(p.levels).map(l => l.level),
    ', ',
  );

/** One patch, as large as it is against the others; a press takes it beside another. */
export function Hung({
  of,
  workshop,
  scale,
  isChosen,
  onChoose,
}: {
  of: WallPatch;
  workshop: ReturnType<typeof useWorkshop>;
  scale: number;
  isChosen: boolean;
  onChoose: () => void;
}) {
  const url = usePhotoUrl(workshop, of.trial, of.straight);
  const [w, h] = [of.size.w * scale, of.size.h * scale];
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      aria-label={write(say`${of.code}, ${headline(of)}`)}
      onClick={onChoose}
      style={{
        width: Math.max(w, 96),
        textAlign: 'left',
        outline: isChosen ? '4px solid var(--chakra-colors-buoy-solid)' : undefined,
        outlineOffset: 3,
      }}
    >
      {url ? (
        <img src={url} alt="" width={w} height={h} style={{ width: w, height: h }} />
      ) : (
        <Box bg="bg.muted" style={{ width: w, height: h }} />
      )}
      <Text fontWeight="700" fontSize="0.95rem" mt="1">
        {of.code}
      </Text>
      <Text fontWeight="700" fontSize="0.95rem">
        <Said>{headline(of)}</Said>
      </Text>
      <Text fontSize="0.9rem" color="fg.muted">
        <Said>{levelsOf(of)}</Said>
      </Text>
    </button>
  );
}

/** One or two patches large, with their numbers. */
export function Beside({
  pair,
  workshop,
  onClear,
}: {
  pair: readonly WallPatch[];
  workshop: ReturnType<typeof useWorkshop>;
  onClear: () => void;
}) {
  return (
    <Box as="section" aria-label="Side by side" borderWidth="2px" borderColor="tide.solid" p="3" mb="5">
      <Flex gap="5" wrap="wrap">
        {pair.map(p => (
          <Large key={keyOf(p)} of={p} workshop={workshop} />
        ))}
        {pair.length === 1 && (
          <Text alignSelf="center" fontSize="1.1rem" maxW="18rem">
            Choose a second one to see both side by side.
          </Text>
        )}
      </Flex>
      <Button mt="2" minH="44px" variant="outline" onClick={onClear}>
        Hang {pair.length > 1 ? 'them' : 'it'} back
      </Button>
    </Box>
  );
}

function Large({ of, workshop }: { of: WallPatch; workshop: ReturnType<typeof useWorkshop> }) {
  const url = usePhotoUrl(workshop, of.trial, of.straight);
  const numbers = RESPONSES.flatMap(m => {
    const value = of.values[m.id];
    return value == null ? [] : [say`${within(m.name)} ${m.words(value)}`];
  });
  return (
    <Box w={{ base: '100%', md: '26rem' }}>
      {url && (
        <img
          src={url}
          alt={`${of.code}, large`}
          style={{ width: '100%', aspectRatio: `${of.size.w} / ${of.size.h}` }}
        />
      )}
      <Text fontWeight="700" mt="1">
        {of.code}, {of.trialName}
      </Text>
      <Text>
        <Said>{levelsOf(of)}</Said>
      </Text>
      <Text color="fg.muted">
        {of.stage}
        {of.isSimulated && ' · simulated photo'}
      </Text>
      <Text>
        <Said>{joined(numbers, ', ')}</Said>
      </Text>
      <Link
        to={`/w/${workshop}/t/${of.trial}/read?patch=${of.code}`}
        style={{ textDecoration: 'underline', lineHeight: '44px' }}
      >
        Open its reading
      </Link>
    </Box>
  );
}
