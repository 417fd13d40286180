import { Table } from '@chakra-ui/react';
import { useState } from 'react';
import { measureRows } from '../../../core/measures/index.ts';
import { mostRounds, progressOf } from '../../../core/progress/index.ts';
import { mm, mm2, say } from '../../../core/say/index.ts';
import { type Patch, photosOf, type RecordOf, readingOf } from '../../../core/trial/index.ts';
import { usePhotoUrl, workshopOf } from '../../../store/index.ts';
import { AsItShouldBe } from '../../board/as-it-should-be.tsx';
import { Box, Button, Flex, Grid, Heading, Text } from '../../ui/kit.tsx';
import { didNotWork, useNotice } from '../../ui/notices.tsx';
import { Said } from '../../ui/settings.tsx';
import { moment } from '../../ui/time.ts';
import { useRecord } from '../../workshop/use-record.ts';
import type { Overlay } from '../overlay.tsx';
import { useTrial } from '../view.tsx';
import { BareList } from './bare-list.tsx';
import { CornersByHand } from './corners-by-hand.tsx';
import { MapView } from './map-view.tsx';
import { OverTime } from './over-time.tsx';
import { useCorrections } from './use-corrections.ts';
import type { Reader } from './use-reader.ts';

const OVERLAYS: readonly [Overlay, string][] = [
  ['none', 'Photo'],
  ['bare', 'Bare patches'],
  ['veil', 'Veil'],
];

/** The readings of one patch: photo with maps, numbers with their give, where it is bare. */
export function ReadingPanel({ patch, reader }: { patch: Patch; reader: Reader }) {
  const { records, workshop, plan } = useTrial();
  const [overlay, setOverlay] = useState<Overlay>('bare');
  const record = useRecord(workshop, plan.id);
  const tell = useNotice();
  const [chosen, setChosen] = useState<number>();
  const found = readingOf(records, patch.code);
  const corrections = useCorrections(patch, found);
  if (!found && photosOf(records, patch.code).length) return <ByEye patch={patch} />;
  if (!found)
    return (
      <Text mt="6" color="fg.muted">
        {patch.code} has no reading yet.
      </Text>
    );
  const { reading, straight } = found.reading;
  const hasRounds = mostRounds(progressOf(plan, records).lines) > 1;
  const rows = [
    ...measureRows(reading).map(r => [r.name, r.value, r.of] as const),
    ['Bare patches', String(reading.bare.length), say`of ${mm2(1)} or more`] as const,
    ['Could be seen', `${reading.visible.toFixed(0)} %`, 'of the inked area, on this ground'] as const,
  ];
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="1">
        {patch.code}
      </Heading>
      <Text color="fg.muted" mb="3">
        {found.photo.stage === 'dry' ? 'Dry' : 'Wet'}
        {hasRounds && `, after round ${found.photo.round}`}, read{' '}
        {moment(Date.parse(found.reading.at), Date.now())}
        {found.photo.simulated && ' · simulated photo'}
        {reading.byHand && ' · corners set by hand'}
        {found.machine && ' · put right by hand'}
      </Text>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="5">
        <Box>
          <MapView
            {...{ patch, reading, straight, overlay, chosen }}
            record={found.reading.id}
            hand={corrections.hand}
            drawing={corrections.drawing}
            onDrawn={corrections.draw}
          />
          <Flex gap="2" mt="2" wrap="wrap">
            {OVERLAYS.map(([id, word]) => (
              <Button
                key={id}
                size="sm"
                minH="44px"
                variant={overlay === id ? 'solid' : 'outline'}
                colorPalette="tide"
                aria-pressed={overlay === id}
                onClick={() => setOverlay(id)}
              >
                {word}
              </Button>
            ))}
          </Flex>
        </Box>
        <Box>
          <Table.Root size="sm">
            <Table.Body>
              {rows.map(([what, value, note]) => (
                <Table.Row key={what} bg="transparent">
                  <Table.Cell ps="0">{what}</Table.Cell>
                  <Table.Cell fontWeight="700" whiteSpace="nowrap">
                    <Said>{value}</Said>
                  </Table.Cell>
                  <Table.Cell color="fg.muted">
                    <Said>{note}</Said>
                  </Table.Cell>
                </Table.Row>
              ))}
            </Table.Body>
          </Table.Root>
          {reading.mirrored && (
            <Text mt="2" color="buoy.fg" fontWeight="700">
              The picture is backwards.
            </Text>
          )}
          {reading.notes.map(n => (
            <Text key={n} mt="2">
              {n}
            </Text>
          ))}
          <BareList
            bare={corrections.machine?.bare ?? []}
            {...{ chosen, corrections }}
            onChoose={setChosen}
          />
          <Text mt="3" color="fg.muted" fontSize="0.9rem">
            Photo: {reading.quality.pxPerMm} pixels per mm, {reading.quality.tiltDeg}° tilt,{' '}
            <Said>{say`blur ${mm(reading.quality.blurMm)}, lined up to ${mm(reading.quality.residualMm)}`}</Said>
          </Text>
          <Button
            mt="3"
            minH="44px"
            variant="outline"
            onClick={() =>
              void record
                .add([{ kind: 'undo', patch: patch.code, of: found.reading.id }])
                .then(
                  kept =>
                    kept &&
                    tell({ say: 'The reading was taken back. Its photo is kept and can be read again.' }),
                )
            }
          >
            Take this reading back
          </Button>
          <CornersAnew {...{ patch, reader }} photo={found.photo} />
          <OverTime patch={patch} hasRounds={hasRounds} />
        </Box>
      </Grid>
      {plan.intent !== 'crisp' && (
        <Text mt="3" color="fg.muted">
          You wanted it {plan.intent}: bare patches may be what you are after. Judge with your eyes.
        </Text>
      )}
    </Box>
  );
}

/** Where the reader lined the picture up wrongly: the corners set by hand in the photo that it read. */
function CornersAnew({ patch, reader, photo }: { patch: Patch; reader: Reader; photo: RecordOf<'photo'> }) {
  const { workshop, plan } = useTrial();
  const tell = useNotice();
  const [open, setOpen] = useState<{ readonly file: Blob; readonly size: { w: number; h: number } }>();
  const begin = async () => {
    try {
      const file = await workshopOf(workshop).photo(plan.id, photo.photo);
      if (!file) return tell({ say: 'The photo of this reading is not here any more.' });
      const bitmap = await createImageBitmap(file);
      setOpen({ file, size: { w: bitmap.width, h: bitmap.height } });
      bitmap.close();
    } catch (error) {
      tell(didNotWork(error));
    }
  };
  return (
    <>
      <Button mt="3" ms="3" minH="44px" variant="ghost" onClick={() => void begin()}>
        Set its corners by hand
      </Button>
      {open && (
        <CornersByHand
          photo={open.file}
          size={open.size}
          close={() => setOpen(undefined)}
          onDone={corners => {
            setOpen(undefined);
            const { stage, round, worn, name } = photo;
            reader.again(photo.photo, name, { code: patch.code, corners }, open.file, {
              ...{ stage, roundOf: () => round },
              ...(worn ? { worn } : {}),
            });
          }}
        />
      )}
    </>
  );
}

/** A patch whose photos were kept unread: the last of them beside what was printed. */
function ByEye({ patch }: { patch: Patch }) {
  const { records, workshop, plan } = useTrial();
  const photo = photosOf(records, patch.code).at(-1);
  const url = usePhotoUrl(workshop, plan.id, photo?.photo);
  return (
    <Box mt="6">
      <Heading as="h2" size="lg" mb="1">
        {patch.code}
      </Heading>
      <Text color="fg.muted" mb="3">
        Its photo is kept and has not been measured: judge it by eye, or take one through the card.
      </Text>
      <Grid templateColumns="1fr 1fr" gap="4" maxW="40rem">
        <Box>
          {url ? (
            <img src={url} alt={`${patch.code} as it is`} style={{ width: '100%' }} />
          ) : (
            <Text>No photo yet.</Text>
          )}
          <Text fontSize="0.95rem">As it is</Text>
        </Box>
        <AsItShouldBe {...{ workshop, plan, records, patch }} />
      </Grid>
    </Box>
  );
}
