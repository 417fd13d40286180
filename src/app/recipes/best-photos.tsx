import { useMemo } from 'react';
import { Link } from 'react-router';
import type { KeptRecipe } from '../../core/recipe-book/index.ts';
import { arranged, type WallPatch, wallOf } from '../../core/wall/index.ts';
import { usePhotoUrl, useTrials } from '../../store/index.ts';
import { Box, Flex, Heading, Text } from '../ui/kit.tsx';
import { useWorkshop } from '../workshop/workshop.ts';

const MOST = 3;

/** Photos of the patches that a recipe rests on, those that landed most first; nothing where they are gone or were not read. */
export function BestPhotos({ from }: { from: NonNullable<KeptRecipe['from']> }) {
  const workshop = useWorkshop();
  const ids = useMemo(() => [from.trial], [from.trial]);
  const { trials } = useTrials(workshop, ids);
  const best = useMemo(() => {
    const wall = wallOf(trials, new Map([[from.trial, new Set(from.patches)]]));
    return arranged(wall, { group: '', order: 'landed', lastOnly: true })
      .flatMap(g => g.patches)
      .slice(0, MOST);
  }, [trials, from]);
  if (!best.length) return null;
  return (
    <Box as="section" aria-label="Its best patches" mt="6">
      <Heading as="h2" size="lg" mb="2">
        Its best patches
      </Heading>
      <Flex gap="4" wrap="wrap">
        {best.map(p => (
          <Best key={p.record} of={p} />
        ))}
      </Flex>
    </Box>
  );
}

function Best({ of }: { of: WallPatch }) {
  const workshop = useWorkshop();
  const url = usePhotoUrl(workshop, of.trial, of.straight);
  return (
    <Box w="11rem">
      <Box bg="bg.muted" style={{ aspectRatio: `${of.size.w} / ${of.size.h}` }}>
        {url && <img src={url} alt={`${of.code}, as it came out`} style={{ width: '100%' }} />}
      </Box>
      <Link
        to={`/w/${workshop}/t/${of.trial}/read?patch=${of.code}`}
        style={{ textDecoration: 'underline', lineHeight: '44px', fontWeight: 700 }}
      >
        {of.code}
      </Link>
      <Text>
        {of.values.landed == null ? 'not given' : `${of.values.landed.toFixed(0)} % landed`}
        {of.isSimulated && ' · simulated photo'}
      </Text>
    </Box>
  );
}
