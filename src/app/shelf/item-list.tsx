import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { many, mm, say, type Words } from '../../core/say/index.ts';
import { hexOf, onHandWords, SHELF_NAMES, type ShelfItem, type ShelfKind } from '../../core/shelf/index.ts';
import { Box, Button, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';

const ROW = 58;

/** The items as rows; only those in view are drawn, so that hundreds cost nothing. */
export function ItemList({
  items,
  kind,
  chosen,
  onChoose,
}: {
  items: readonly ShelfItem[];
  kind: ShelfKind;
  chosen?: string;
  onChoose: (item: ShelfItem) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const place = items.findIndex(i => i.id === chosen);
  useEffect(() => {
    if (place >= 0) rows.scrollToIndex(place);
  }, [place, rows]);
  return (
    <Box
      ref={scroller}
      maxH={{ base: '50vh', lg: '62vh' }}
      overflowY="auto"
      borderTopWidth="1px"
      tabIndex={0}
      role="group"
      aria-label={SHELF_NAMES[kind].many}
    >
      <Box position="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(row => {
          const item = items[row.index];
          return (
            <Button
              key={item.id}
              variant="plain"
              position="absolute"
              left="0"
              w="100%"
              justifyContent="start"
              textAlign="start"
              borderBottomWidth="1px"
              borderColor="border"
              borderRadius="0"
              color="fg"
              px="2"
              aria-pressed={item.id === chosen}
              bg={item.id === chosen ? 'buoy.subtle' : undefined}
              style={{ height: ROW, top: row.start }}
              onClick={() => onChoose(item)}
            >
              {'colour' in item && (
                <Box
                  w="22px"
                  h="22px"
                  flex="none"
                  borderWidth="1px"
                  borderColor="border.emphasized"
                  style={{ background: hexOf(item.colour) }}
                  aria-hidden="true"
                />
              )}
              <Box minW="0">
                <Text truncate fontWeight="600">
                  {item.name}
                </Text>
                <Text truncate color="fg.muted" fontSize="0.9rem" fontWeight="400">
                  <Said>{about(item)}</Said>
                </Text>
              </Box>
            </Button>
          );
        })}
      </Box>
    </Box>
  );
}

const counted = (item: Parameters<typeof onHandWords>[0]): Words =>
  onHandWords(item) && say`, ${onHandWords(item)}`;

/** One line that tells an item from its neighbours. */
function about(item: ShelfItem): Words {
  if ('colourant' in item)
    return `${item.colourant}, ${item.dpi} dpi, ${item.pricePerPage.toFixed(2)} a page`;
  if ('gsm' in item) return say`${item.kind}, comes off by: ${item.releases}${counted(item)}`;
  if ('openMin' in item)
    return item.kind === 'none'
      ? 'for methods that need none'
      : say`${item.kind}, dry in about ${item.dryHours < 1 ? `${Math.round(item.dryHours * 60)} min` : `${item.dryHours} h`}${counted(item)}`;
  if ('thirst' in item)
    return say`${item.kind}, ${item.onePiece ? say`pieces of ${mm(item.piece.w, { by: item.piece.h })}` : 'cut to boards'}`;
  if ('whitens' in item)
    return item.kind === 'none' ? 'as it is' : `${item.kind}, ${item.minutes} min, then ${item.waitHours} h`;
  if ('washMin' in item) return item.kind;
  return item.kind === 'none' ? 'left as it is' : say`${many(item.coats, 'coat')}, ${item.waitHours} h wait`;
}
