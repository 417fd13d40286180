import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { type Picture, pictureNotes } from '../../core/artwork/index.ts';
import type { PlanRequest } from '../../core/design/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { hasRoomForStrip, MOST_PICTURES, type PlanPicture, sizeOf, TARGET } from '../../core/trial/index.ts';
import { usePictures } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { FitNotes } from '../ui/fit-notes.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { facePicture, measuredOn } from '../workshop/on-patches.ts';
import { useWorkshop } from '../workshop/workshop.ts';
import type { Way } from './choice.tsx';

interface Props {
  readonly request: PlanRequest;
  readonly shelf: Shelf;
  readonly ways: readonly Way[];
  readonly onChange: (part: Partial<PlanRequest>) => void;
}

/** What is printed on the patches: the test target, or pictures of the maker's own. */
export function PatchPictures(props: Props) {
  const { request, onChange } = props;
  const workshop = useWorkshop();
  const stored = usePictures(workshop).data ?? [];
  const pictures = request.pictures ?? [];
  const free = stored.filter(p => !pictures.some(own => own.id === p.id));
  const isVaried = request.factors.some(f => f.key === 'picture');
  const add = (id: string) => {
    const picture = stored.find(p => p.id === id);
    if (!picture) return;
    const on: PlanPicture = {
      id,
      name: picture.name,
      how: 'whole',
      at: { x: 0.5, y: 0.5 },
      strip: false,
    };
    // The first one that is taken is what the patches get.
    onChange({ pictures: [...pictures, on], ...(pictures.length ? {} : { picture: id }) });
  };
  const change = (id: string, part: Partial<PlanPicture>) =>
    onChange({ pictures: pictures.map(p => (p.id === id ? { ...p, ...part } : p)) });
  const remove = (id: string) =>
    onChange({
      pictures: pictures.filter(p => p.id !== id),
      ...(request.picture === id ? { picture: undefined } : {}),
      factors: without(request.factors, id),
    });
  return (
    <Box as="section" aria-label="What is printed on the patches" mt="6">
      <Heading as="h2" size="lg" mb="1">
        What is printed on the patches
      </Heading>
      <Text color="fg.muted" mb="2">
        The test target tells most from a photo: fine lines, even tones, greys. A picture of your own is
        measured too, as far as it goes, and shows how the real piece will look.
      </Text>
      <HStack gap="3" wrap="wrap" align="end">
        {pictures.length > 0 && !isVaried && (
          <Choose
            label="On every patch"
            value={request.picture ?? TARGET.id}
            options={[[TARGET.id, TARGET.name], ...pictures.map(p => [p.id, p.name] as const)]}
            onChange={id => onChange({ picture: id === TARGET.id ? undefined : id })}
          />
        )}
        {free.length > 0 && pictures.length < MOST_PICTURES && (
          <Choose
            label={pictures.length ? 'Another of your pictures' : 'One of your pictures instead'}
            value=""
            options={[['', 'choose…'], ...free.map(p => [p.id, p.name] as const)]}
            onChange={add}
          />
        )}
      </HStack>
      {stored.length === 0 && pictures.length === 0 && (
        <Text>
          To print your own, add it under{' '}
          <Link to={`/w/${workshop}/pictures`} style={{ textDecoration: 'underline' }}>
            Pictures
          </Link>{' '}
          first; what is planned here stays.
        </Text>
      )}
      {isVaried && (
        <Text mt="1">Which one a patch gets is one of the things that change from patch to patch.</Text>
      )}
      {pictures.map(on => (
        <OnPatches
          key={on.id}
          {...props}
          on={on}
          picture={stored.find(p => p.id === on.id)}
          onPart={part => change(on.id, part)}
          onRemove={() => remove(on.id)}
        />
      ))}
    </Box>
  );
}

/** Factors without a picture; with fewer than two left it is not varied any more. */
function without(factors: PlanRequest['factors'], id: string): PlanRequest['factors'] {
  const left = factors.map(f => (f.key === 'picture' ? { ...f, levels: f.levels.filter(l => l !== id) } : f));
  const still = left.filter(f => f.levels.length > 1);
  return still.length ? still : factors;
}

/** One picture as it will lie on patches, how much of it, and what speaks against it. */
function OnPatches({
  request,
  shelf,
  ways,
  on,
  picture,
  onPart,
  onRemove,
}: Props & {
  on: PlanPicture;
  picture: Picture | undefined;
  onPart: (part: Partial<PlanPicture>) => void;
  onRemove: () => void;
}) {
  const workshop = useWorkshop();
  const size = sizeOf(request);
  const key = JSON.stringify([picture, on.how, on.at, on.strip, size]);
  const face = useQuery({
    queryKey: ['on patches', workshop, key],
    enabled: picture !== undefined,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
    queryFn: async () => ({
      png: await facePicture(workshop, picture!, on, request),
      ...(await measuredOn(workshop, picture!, on, request)),
    }),
  });
  const url = useUrl(face.data?.png);
  const [{ method, usual }] = ways;
  const printer = shelf.printers.find(p => p.id === usual.printer);
  const donor = shelf.donors.find(d => d.id === usual.donor);
  const grounds = shelf.substrates.filter(s => s.id === usual.substrate);
  const notes =
    picture && face.data && printer && donor
      ? pictureNotes({
          ...{ method, printer, donor, grounds },
          facts: face.data.facts,
          size: face.data.size,
          hasText: picture.hasText,
        })
      : [];
  const roomy = hasRoomForStrip(request);
  return (
    <Box borderTopWidth="1px" py="3" mt="3">
      <Flex gap="4" wrap="wrap" align="start">
        <Box w="9rem" flex="none">
          {url ? (
            <img
              src={url}
              alt={`${on.name} on a patch`}
              style={{ width: '100%', border: '1px solid currentColor' }}
            />
          ) : (
            <Text role="status">{picture ? (face.isError ? 'It cannot be drawn.' : 'Drawing it…') : ''}</Text>
          )}
        </Box>
        <Box flex="1" minW="14rem">
          <Text fontWeight="700">{on.name}</Text>
          {!picture && (
            <Text color="warn.fg" role="alert">
              It is not among your pictures any more. Leave it out, or add it again.
            </Text>
          )}
          <HStack gap="3" wrap="wrap" align="end" mt="1">
            <Choose
              label="How much of it"
              value={on.how}
              options={[
                ['whole', 'all of it, made to fit'],
                ['detail', 'a part, as large as on its piece'],
              ]}
              onChange={how => onPart({ how: how as PlanPicture['how'] })}
            />
            {on.how === 'detail' &&
              (['x', 'y'] as const).map(axis => (
                <label key={axis} style={{ display: 'block' }}>
                  {axis === 'x' ? 'Left to right' : 'Top to bottom'}
                  <input
                    type="range"
                    min="0"
                    max="1"
                    step="0.02"
                    value={on.at[axis]}
                    onChange={e => onPart({ at: { ...on.at, [axis]: Number(e.target.value) } })}
                    style={{ display: 'block', width: '10rem', minHeight: 40 }}
                  />
                </label>
              ))}
          </HStack>
          <HStack gap="4" mt="2" wrap="wrap">
            <label style={{ display: 'flex', gap: '0.4rem', alignItems: 'center', minHeight: 44 }}>
              <input
                type="checkbox"
                checked={on.strip}
                disabled={!roomy && !on.strip}
                style={{ width: 20, height: 20 }}
                onChange={e => onPart({ strip: e.target.checked })}
              />
              Tone steps and fine lines below it
              {!roomy && ' (patches are too small for them)'}
            </label>
            <Button
              size="sm"
              variant="ghost"
              minH="44px"
              onClick={onRemove}
              aria-label={`Do not print ${on.name}`}
            >
              Leave it out
            </Button>
          </HStack>
        </Box>
      </Flex>
      {face.data && <FitNotes notes={notes.map(({ fix: _, ...note }) => note)} onFix={() => {}} />}
    </Box>
  );
}

/** An address for a file, for as long as it is looked at. */
function useUrl(file: Blob | undefined): string | undefined {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!file) return;
    const made = URL.createObjectURL(file);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  return url;
}
