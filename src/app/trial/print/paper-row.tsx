import { useMemo, useState } from 'react';
import { Box, Button, Flex, HStack, Text } from '../../ui/kit.tsx';
import { PagePreview } from '../../ui/page-preview.tsx';
import { Said } from '../../ui/settings.tsx';
import type { Paper } from './papers.ts';

/** A paper that can be looked at and saved. */
export function PaperRow({
  paper,
  isShown,
  busy,
  onShow,
  onSave,
}: {
  paper: Paper;
  isShown: boolean;
  busy: boolean;
  onShow: () => void;
  onSave: () => void;
}) {
  return (
    <Flex borderTopWidth="1px" py="2" gap="3" align="center" wrap="wrap">
      <Box flex="1" minW="12rem">
        <Text fontWeight="700">{paper.name}</Text>
        <Text color="fg.muted" fontSize="0.95rem">
          <Said>{paper.says}</Said>
        </Text>
      </Box>
      <Button
        variant="outline"
        minH="44px"
        size="sm"
        aria-expanded={isShown}
        onClick={onShow}
        aria-label={`${isShown ? 'Hide' : 'Look at'}: ${paper.name}`}
      >
        {isShown ? 'Hide' : 'Look'}
      </Button>
      <Button
        variant="outline"
        minH="44px"
        size="sm"
        loading={busy}
        onClick={onSave}
        aria-label={`Save: ${paper.name} (PDF)`}
      >
        Save (PDF)
      </Button>
    </Flex>
  );
}

/** The pages of a paper, one at a time. */
export function Looking({ paper }: { paper: Paper }) {
  const sheets = useMemo(() => paper.make(), [paper]);
  const [at, setAt] = useState(0);
  const page = sheets.pages[Math.min(at, sheets.pages.length - 1)];
  return (
    <Box mt="2" mb="4">
      <PagePreview
        sheets={sheets}
        page={page}
        name={`${paper.name}, page ${at + 1} of ${sheets.pages.length}`}
      />
      {sheets.pages.length > 1 && (
        <HStack mt="2">
          <Button size="sm" minH="40px" variant="outline" disabled={at === 0} onClick={() => setAt(at - 1)}>
            Page before
          </Button>
          <Text>
            {at + 1} of {sheets.pages.length}
          </Text>
          <Button
            size="sm"
            minH="40px"
            variant="outline"
            disabled={at >= sheets.pages.length - 1}
            onClick={() => setAt(at + 1)}
          >
            Next page
          </Button>
        </HStack>
      )}
    </Box>
  );
}
