import { Box, Button, Flex, Text } from '../ui/kit.tsx';

/** The frame of what is asked beside the work, with the way out. */
export function Frame({
  title,
  close,
  out = 'Never mind',
  children,
}: {
  title: string;
  /** What the way out is called. */
  out?: string;
  close: () => void;
  children: React.ReactNode;
}) {
  return (
    <Box
      role="group"
      aria-label={title}
      borderWidth="2px"
      borderColor="tide.solid"
      p="3"
      mx="4"
      mb="2"
      bg="bg.panel"
    >
      <Flex align="center" gap="3" mb="2">
        <Text fontWeight="700" fontSize="1.2rem" flex="1">
          {title}
        </Text>
        <Button variant="ghost" minH="44px" onClick={close}>
          {out}
        </Button>
      </Flex>
      <Flex gap="2" wrap="wrap" align="end">
        {children}
      </Flex>
    </Box>
  );
}

/** A choice that a wet hand can hit. */
export const Big = ({
  onClick,
  children,
  disabled,
}: {
  onClick: () => void;
  children: React.ReactNode;
  disabled?: boolean;
}) => (
  <Button variant="outline" minH="64px" px="5" fontSize="1.15rem" onClick={onClick} disabled={disabled}>
    {children}
  </Button>
);
