import { Box, Button, HStack, Text } from '../ui/kit.tsx';

/** Whether there is writing in a picture: asked until it is answered, since writing shows when a sheet was not mirrored. */
export function Writing({
  hasText,
  onChange,
}: {
  hasText: boolean | null;
  onChange: (hasText: boolean) => void;
}) {
  return hasText === null ? (
    <Box borderWidth="2px" borderColor="buoy.solid" p="3" mt="3" role="group" aria-label="Writing">
      <Text fontWeight="700">Is there any writing in it?</Text>
      <Text color="fg.muted">Writing shows at once when a picture was not mirrored.</Text>
      <HStack mt="2">
        <Button minH="48px" variant="outline" onClick={() => onChange(true)}>
          Yes, there is
        </Button>
        <Button minH="48px" variant="outline" onClick={() => onChange(false)}>
          No writing
        </Button>
      </HStack>
    </Box>
  ) : (
    <Text mt="2" color="fg.muted">
      {hasText ? 'There is writing in it.' : 'No writing in it.'}{' '}
      <Button
        variant="plain"
        px="0"
        minH="32px"
        size="sm"
        textDecoration="underline"
        onClick={() => onChange(!hasText)}
      >
        {hasText ? 'No, there is none' : 'There is some after all'}
      </Button>
    </Text>
  );
}
