import { useState } from 'react';
import { corrected } from '../../../core/print/index.ts';
import { mm, unitFor } from '../../../core/say/index.ts';
import type { Printer } from '../../../core/shelf/index.ts';
import { useWorkshopActions } from '../../../store/index.ts';
import { Box, Button, HStack, Text } from '../../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../../ui/notices.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { Said, useSettings } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';

const TRUE = 100;

/** Asks what a printer's bars measured on its last sheet; the correction is kept with the printer and later sheets are drawn by it. */
export function Bars({ printer }: { printer: Printer }) {
  const { workshop } = useTrial();
  const { saveItems } = useWorkshopActions(workshop);
  const tell = useNotice();
  const unit = unitFor('length', useSettings().settings.system);
  const [across, setAcross] = useState(TRUE);
  const [down, setDown] = useState(TRUE);
  const save = async (next: { barAcross: number; barDown: number }, say: string) => {
    try {
      await saveItems('printers', [{ ...printer, ...next }], [printer]);
      setAcross(TRUE);
      setDown(TRUE);
      tell({ say });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const correct = () => {
    const next = corrected(printer, { across, down });
    if (!next.ok) return tell(asNotice(next.problem));
    return save(next.value, 'Later sheets for this printer are drawn by it. Print one again and measure it.');
  };
  const drawn = [100 / printer.barAcross, 100 / printer.barDown];
  const isCorrected = drawn.some(d => Math.abs(d - 1) > 1e-6);
  const pct = (v: number) => `${(100 * v).toFixed(1)} %`;
  return (
    <Box>
      <Text fontSize="0.95rem" fontWeight="500" mb="1">
        {printer.name}: on its last sheet the bars of <Said>{mm(100)}</Said> measured
      </Text>
      <HStack gap="2" align="end" wrap="wrap">
        <Box w="7.5rem">
          <NumberChoice
            label={`across, ${unit.name}`}
            value={across}
            factor={unit.per}
            step={0.01}
            limit="barMm"
            onChange={setAcross}
          />
        </Box>
        <Box w="7.5rem">
          <NumberChoice
            label={`down, ${unit.name}`}
            value={down}
            factor={unit.per}
            step={0.01}
            limit="barMm"
            onChange={setDown}
          />
        </Box>
        <Button
          variant="outline"
          minH="44px"
          disabled={across === TRUE && down === TRUE}
          onClick={() => void correct()}
        >
          Correct later sheets
        </Button>
      </HStack>
      {isCorrected && (
        <HStack mt="1" wrap="wrap">
          <Text fontSize="0.95rem">
            Sheets are drawn at {pct(drawn[0])} across and {pct(drawn[1])} down.
          </Text>
          <Button
            variant="plain"
            minH="44px"
            size="sm"
            textDecoration="underline"
            onClick={() =>
              void save(
                { barAcross: TRUE, barDown: TRUE },
                'Sheets for this printer are drawn at 100 % again.',
              )
            }
          >
            Draw at 100 % again
          </Button>
        </HStack>
      )}
    </Box>
  );
}
