import { Dialog, Portal, Table } from '@chakra-ui/react';
import { Box, Button } from '../ui/kit.tsx';

const KEYS: readonly [string, string][] = [
  ['?', 'Show or hide this list'],
  ['← ↑ → ↓', 'On the board: go to the patch next to this one'],
  ['Tab', 'Go to the next control'],
  ['Space, Enter', 'On the bench: done (a pedal’s Page Down too). Elsewhere: press the control'],
  ['L, X, N, P', 'On the bench: I was late, spoilt, a note, a photo'],
  ['R, D', 'On the bench: not ready yet, not now'],
  ['U', 'On the bench: undo the last thing'],
  ['S', 'On the bench: sound on or off'],
  ['Escape', 'Close this list, or leave the bench'],
];

/** The list of keys, opened with `?`. */
export function KeyList({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={e => !e.open && onClose()} placement="center">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="bg.panel">
            <Dialog.Header>
              <Dialog.Title>Keys</Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              <Table.Root size="sm">
                <Table.Body>
                  {KEYS.map(([key, what]) => (
                    <Table.Row key={key} bg="transparent">
                      <Table.Cell fontWeight="700" whiteSpace="nowrap">
                        {key}
                      </Table.Cell>
                      <Table.Cell>{what}</Table.Cell>
                    </Table.Row>
                  ))}
                </Table.Body>
              </Table.Root>
              <Box mt="4">
                <Button onClick={onClose} colorPalette="tide">
                  Close
                </Button>
              </Box>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
