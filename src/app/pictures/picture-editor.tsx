import { Box, Button, Checkbox, Field, Flex, Grid, Heading, HStack, Input, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { type Edit, type Picture, pictureNotes, printSize } from '../../core/artwork/index.ts';
import type { Method } from '../../core/methods/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { failure, useAttempt, useNotice } from '../ui/notices.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useSettings } from '../ui/settings.tsx';
import { useWorkshop } from '../ui/workshop.ts';
import { EditTools } from './edit-tools.tsx';
import { BaseCoat, FitNotes, Shown } from './picture-notes.tsx';
import { PictureSheet } from './picture-sheet.tsx';
import { useExpected } from './use-expected.ts';
import { usePixels, useView } from './use-view.ts';

/** One picture: how it will look, whether it is fit, what is changed, and its sheet. The original is kept. */
export function PictureEditor({
  stored,
  shelf,
  methods,
}: {
  stored: Picture;
  shelf: Shelf;
  methods: readonly Method[];
}) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const attempt = useAttempt();
  const { savePicture, removePicture } = useWorkshopActions(workshop);
  const { settings } = useSettings();
  const [picture, setPicture] = useState(stored);
  const file = usePixels(workshop, picture.id);
  const method = methods.find(m => m.id === picture.method) ?? methods[0];
  const printer = shelf.printers.find(p => p.id === picture.printer) ?? shelf.printers[0];
  const donor = shelf.donors.find(d => d.id === picture.donor) ?? shelf.donors[0];
  const grounds = shelf.substrates.filter(s => picture.grounds.includes(s.id));
  const [aspect, setAspect] = useState(1.25);
  const size = printSize(aspect, picture.piece, picture.fit, picture.marginMm);
  const expected = useExpected(method.id);
  const [asOwn, setAsOwn] = useState(false);
  const asMine = asOwn ? expected : undefined;
  const { view, problem } = useView(file.data, picture, size.w, {
    mirror: method.mirror,
    grounds,
    veil: asMine ? asMine.veil : 0,
    ...(asMine ? { loss: { least: 1 - asMine.landedHi / 100, most: 1 - asMine.landedLo / 100 } } : {}),
    donor,
    oneColour: printer.oneColour,
  });
  if (view && Math.abs(view.aspect - aspect) > 0.001) setAspect(view.aspect);
  const change = (part: Partial<Picture>) => {
    const next = { ...picture, ...part };
    setPicture(next);
    void attempt(() => savePicture(next, picture));
  };
  const add = (edit: Edit) => change({ edits: [...picture.edits, edit] });
  const remove = async () => {
    try {
      await removePicture(picture.id);
      tell({ say: `${picture.name} was taken away.`, undo: () => void attempt(() => savePicture(picture)) });
    } catch (error) {
      tell(failure(error));
    }
  };
  const notes = view
    ? pictureNotes({
        facts: view.facts,
        method,
        printer,
        donor,
        grounds,
        size,
        hasText: picture.hasText,
        ...(expected?.kept ? { kept: expected.kept } : {}),
      })
    : [];
  const inch = settings.system === 'imperial' ? 25.4 : 1;
  const unit = inch === 1 ? 'mm' : 'in';
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,11fr) minmax(0,9fr)' }}
      gap={{ base: '6', lg: '9' }}
      alignItems="start"
    >
      <Box>
        <Heading as="h2" size="lg" mb="2">
          What it will look like
        </Heading>
        {problem && (
          <Text color="buoy.fg" role="alert">
            {problem}
          </Text>
        )}
        {!view && !problem && <Text role="status">Opening the picture…</Text>}
        {view && (
          <Grid templateColumns={{ base: '1fr', sm: '1fr 1fr' }} gap="4">
            <Shown
              url={view.donorUrl}
              words={`On the donor sheet${method.mirror ? ', mirrored' : ', not mirrored'}`}
            />
            {grounds.map((g, i) => (
              <Shown key={g.id} url={view.lookUrls[i]} words={`Finished, on ${g.name.toLowerCase()}`} />
            ))}
          </Grid>
        )}
        {expected && (
          <Checkbox.Root
            mt="3"
            minH="44px"
            checked={asOwn}
            onCheckedChange={e => setAsOwn(Boolean(e.checked))}
          >
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>
              As your own {expected.patches} patches came out: {expected.landedLo.toFixed(0)} to{' '}
              {expected.landedHi.toFixed(0)} % landed, veil {expected.veilLo.toFixed(2)} to{' '}
              {expected.veilHi.toFixed(2)}. Losses of a bad day are faint; where they fall is made up.
            </Checkbox.Label>
          </Checkbox.Root>
        )}
        <Text fontWeight="600" mt="3">
          Grounds to see it on
        </Text>
        <Flex gap="4" wrap="wrap">
          {shelf.substrates.map(s => (
            <Checkbox.Root
              key={s.id}
              minH="36px"
              checked={picture.grounds.includes(s.id)}
              onCheckedChange={e =>
                change({
                  grounds: e.checked ? [...picture.grounds, s.id] : picture.grounds.filter(g => g !== s.id),
                })
              }
            >
              <Checkbox.HiddenInput />
              <Checkbox.Control />
              <Checkbox.Label>{s.name}</Checkbox.Label>
            </Checkbox.Root>
          ))}
        </Flex>
      </Box>
      <Box>
        <PictureSheet
          {...{ picture, facts: view?.facts, size, method, printer, donor }}
          stopped={!view || picture.hasText === null || notes.some(n => n.severity === 'stop')}
        />
        {picture.hasText === null ? (
          <Box borderWidth="2px" borderColor="buoy.solid" p="3" mt="3" role="group" aria-label="Writing">
            <Text fontWeight="700">Is there any writing in it?</Text>
            <Text color="fg.muted">Writing shows at once when a picture was not mirrored.</Text>
            <HStack mt="2">
              <Button minH="48px" variant="outline" onClick={() => change({ hasText: true })}>
                Yes, there is
              </Button>
              <Button minH="48px" variant="outline" onClick={() => change({ hasText: false })}>
                No writing
              </Button>
            </HStack>
          </Box>
        ) : (
          <Text mt="2" color="fg.muted">
            {picture.hasText ? 'There is writing in it.' : 'No writing in it.'}{' '}
            <Button
              variant="plain"
              px="0"
              minH="32px"
              size="sm"
              textDecoration="underline"
              onClick={() => change({ hasText: !picture.hasText })}
            >
              {picture.hasText ? 'No, there is none' : 'There is some after all'}
            </Button>
          </Text>
        )}
        {view && <FitNotes notes={notes} onFix={add} />}
        <Heading as="h2" size="lg" mt="5" mb="2">
          How it is printed
        </Heading>
        <HStack gap="3" wrap="wrap" align="end">
          <Choose
            label="Method"
            value={method.id}
            options={methods.map(m => [m.id, m.name] as const)}
            onChange={id => change({ method: id })}
          />
          <Choose
            label="Printer"
            value={printer.id}
            options={shelf.printers.map(p => [p.id, p.name] as const)}
            onChange={id => change({ printer: id })}
          />
          <Choose
            label="Donor sheet"
            value={donor.id}
            options={shelf.donors.map(d => [d.id, d.name] as const)}
            onChange={id => change({ donor: id })}
          />
          <Choose
            label="On its piece"
            value={picture.fit}
            options={[
              ['fit', 'inside the margins'],
              ['fill', 'fill the piece, cut off the rest'],
              ['enlarge', 'as large as the piece'],
            ]}
            onChange={fit => change({ fit: fit as Picture['fit'] })}
          />
        </HStack>
        <HStack gap="3" mt="2" wrap="wrap" align="start">
          {(
            [
              ['Piece width', picture.piece.w, (w: number) => change({ piece: { ...picture.piece, w } })],
              ['Piece height', picture.piece.h, (h: number) => change({ piece: { ...picture.piece, h } })],
              ['Margin', picture.marginMm, (marginMm: number) => change({ marginMm })],
            ] as const
          ).map(([label, value, set]) => (
            <Box key={label} w="8rem">
              <NumberChoice
                label={`${label}, ${unit}`}
                value={value}
                factor={inch}
                step={1}
                zero={label === 'Margin'}
                onChange={v => (v >= (label === 'Margin' ? 0 : 5) && v <= 2000 ? set(v) : undefined)}
              />
            </Box>
          ))}
          <Checkbox.Root
            minH="40px"
            mt="6"
            checked={picture.centreMarks}
            onCheckedChange={e => change({ centreMarks: Boolean(e.checked) })}
          >
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>Centre marks</Checkbox.Label>
          </Checkbox.Root>
        </HStack>
        <EditTools
          picture={picture}
          background={view?.facts.background}
          onChange={edits => change({ edits })}
        />
        {view && <BaseCoat facts={view.facts} mediums={shelf.mediums} />}
        <HStack mt="6" gap="3" align="end" wrap="wrap">
          <Field.Root w="16rem">
            <Field.Label>Name of the picture</Field.Label>
            <Input
              value={picture.name}
              onChange={e =>
                e.target.value.trim()
                  ? change({ name: e.target.value.slice(0, 80) })
                  : setPicture({ ...picture, name: e.target.value })
              }
            />
          </Field.Root>
          <Button variant="ghost" minH="44px" onClick={() => void remove()}>
            Take it away
          </Button>
        </HStack>
      </Box>
    </Grid>
  );
}
