import { Box } from './kit.tsx';

/** A patch's code in running text: its dash is no place to break a line at. */
export const Unbroken = ({ children }: { children: string }) => (
  <Box as="span" whiteSpace="nowrap">
    {children}
  </Box>
);
