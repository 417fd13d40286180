import { useState } from 'react';
import { mm, mm2, say } from '../../../core/say/index.ts';
import type { BarePatch } from '../../../core/trial/index.ts';

import { Box, Button, HStack, Text } from '../../ui/kit.tsx';
import { Said, useWrite } from '../../ui/settings.tsx';
import type { useCorrections } from './use-corrections.ts';

const FIRST = 5;

/** The bare patches of a reading, one press to see where each lies, one to say that it is none; and places drawn by hand. */
export function BareList({
  bare,
  chosen,
  onChoose,
  corrections,
}: {
  bare: readonly BarePatch[];
  chosen: number | undefined;
  onChoose: (i: number | undefined) => void;
  corrections: ReturnType<typeof useCorrections>;
}) {
  const written = useWrite();
  const [isAll, setAll] = useState(false);
  const { hand, drawing, setDrawing, result, machine } = corrections;
  const largest = bare.map((b, i) => ({ ...b, i })).sort((a, b) => b.area - a.area);
  const shown = isAll ? largest : largest.slice(0, FIRST);
  return (
    <Box mt="4">
      {bare.length > 0 && <Text fontWeight="700">Bare patches, the largest first</Text>}
      {shown.map(b => {
        const isOut = hand.rejected.includes(b.i);
        return (
          <HStack key={b.i} borderTopWidth="1px" py="1" gap="2" align="center">
            <Button
              flex="1"
              minH="44px"
              h="auto"
              py="1"
              px="2"
              variant={chosen === b.i ? 'solid' : 'ghost'}
              colorPalette="tide"
              justifyContent="start"
              textAlign="left"
              whiteSpace="normal"
              fontWeight="400"
              aria-pressed={chosen === b.i}
              onClick={() => onChoose(chosen === b.i ? undefined : b.i)}
            >
              <span style={{ textDecoration: isOut ? 'line-through' : undefined }}>
                <Said>{mm2(b.area, { places: 1 })}</Said> {b.shape}, <Said>{mm(Math.round(b.x))}</Said> from
                the left, <Said>{mm(Math.round(b.y))}</Said> from the top
              </span>
            </Button>
            <Button
              minH="44px"
              size="sm"
              variant="outline"
              aria-label={
                isOut ? 'It is bare after all' : written(say`Not bare: the ${b.shape} one of ${mm2(b.area)}`)
              }
              onClick={() => corrections.turn(b.i)}
            >
              {isOut ? 'Bare after all' : 'Not bare'}
            </Button>
          </HStack>
        );
      })}
      {largest.length > FIRST && (
        <Button size="sm" minH="44px" variant="ghost" onClick={() => setAll(!isAll)}>
          {isAll ? 'Only the largest' : `All ${largest.length}`}
        </Button>
      )}
      <HStack mt="2" wrap="wrap">
        {(['bare', 'landed'] as const).map(what => (
          <Button
            key={what}
            minH="44px"
            size="sm"
            variant={drawing === what ? 'solid' : 'outline'}
            aria-pressed={drawing === what}
            onClick={() => setDrawing(drawing === what ? undefined : what)}
          >
            {what === 'bare' ? 'Draw a bare place' : 'Draw a place that landed'}
          </Button>
        ))}
      </HStack>
      {drawing && <Text mt="1">Draw round it on the photo with your finger or the mouse.</Text>}
      {corrections.isChanged && result && (
        <Box mt="3" p="3" borderWidth="2px" borderColor="tide.solid">
          <Text fontWeight="700">
            With your corrections {result.landed.toFixed(1)} % landed; the machine read{' '}
            {machine?.landed?.toFixed(1)} %.
          </Text>
          <HStack mt="2" wrap="wrap">
            <Button minH="44px" colorPalette="buoy" onClick={() => void corrections.keep()}>
              Keep my corrections
            </Button>
            <Button minH="44px" variant="outline" onClick={corrections.leave}>
              Leave them
            </Button>
          </HStack>
        </Box>
      )}
      {!corrections.isChanged && corrections.isKept && (
        <HStack mt="3" wrap="wrap">
          <Text>
            Put right by hand; the machine read <b>{machine?.landed?.toFixed(1)} %</b> landed. Findings use
            your corrections.
          </Text>
          <Button minH="44px" size="sm" variant="outline" onClick={corrections.takeBack}>
            Back to the machine’s
          </Button>
        </HStack>
      )}
    </Box>
  );
}
