import { Box, Heading, Link, Text } from '@chakra-ui/react';
import { isRouteErrorResponse, useRouteError } from 'react-router';

/** Shown when a page does not exist or fails: what happened, and the way back. Nothing stored is lost. */
export function Broken() {
  const error = useRouteError();
  const missing = error == null || (isRouteErrorResponse(error) && error.status === 404);
  return (
    <Box as="main" maxW="40rem" mx="auto" p="8">
      <Heading as="h1" size="2xl" mb="3">
        {missing ? 'There is nothing here' : 'This page stopped working'}
      </Heading>
      <Text mb="4">
        {missing
          ? 'The address may be mistyped, or the trial was removed.'
          : `Your trials are stored and safe. ${error instanceof Error ? error.message : ''}`}
      </Text>
      <Link href="/" color="tide.fg" textDecoration="underline">
        Go to the workshop
      </Link>
    </Box>
  );
}
