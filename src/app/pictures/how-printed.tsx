import type { Picture } from '../../core/artwork/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { unitFor } from '../../core/say/index.ts';
import type { Donor, Printer, Shelf } from '../../core/shelf/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Heading, HStack } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useSettings } from '../ui/settings.tsx';
import { Tick } from '../ui/tick.tsx';

/** With what and how large a picture is printed. */
export function HowPrinted({
  picture,
  method,
  methods,
  printer,
  donor,
  shelf,
  onChange: change,
}: {
  picture: Picture;
  method: Method;
  methods: readonly Method[];
  printer: Printer;
  donor: Donor;
  shelf: Shelf;
  onChange: (part: Partial<Picture>) => void;
}) {
  const { settings } = useSettings();
  const unit = unitFor('length', settings.system);
  return (
    <>
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
              label={`${label}, ${unit.name}`}
              value={value}
              factor={unit.per}
              step={1}
              limit={label === 'Margin' ? 'marginMm' : 'pictureMm'}
              onChange={set}
            />
          </Box>
        ))}
        <Tick
          minH="40px"
          mt="6"
          checked={picture.centreMarks}
          onChange={isOn => change({ centreMarks: isOn })}
        >
          Centre marks
        </Tick>
      </HStack>
    </>
  );
}
