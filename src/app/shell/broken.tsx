import { Link } from '@chakra-ui/react';
import { isRouteErrorResponse, useRouteError } from 'react-router';
import { write } from '../../core/say/index.ts';
import { StorageError } from '../../store/index.ts';
import { Box, Button, Heading, Text } from '../ui/kit.tsx';
import { isOutdated } from './outdated.ts';

/** Shown when a page does not exist, was replaced by a newer one, or fails: what happened, and the way on. Nothing stored is lost. */
export function Broken() {
  const error = useRouteError();
  const missing = error == null || (isRouteErrorResponse(error) && error.status === 404);
  if (isOutdated(error)) return <Outdated />;
  return (
    <Box as="main" maxW="40rem" mx="auto" p="8">
      <Heading as="h1" size="2xl" mb="3">
        {missing ? 'There is nothing here' : 'This page stopped working'}
      </Heading>
      <Text mb="4">
        {missing
          ? 'The address may be mistyped, or the trial was removed.'
          : `Your trials are stored and safe. ${error instanceof Error ? error.message : ''}`}
        {error instanceof StorageError && ` ${write(error.problem.wayOut ?? '')}`}
      </Text>
      {!missing && (
        <Button size="xl" colorPalette="buoy" display="block" mb="4" onClick={() => window.location.reload()}>
          Load again
        </Button>
      )}
      <Link href="/" color="tide.fg" textDecoration="underline">
        Go to the workshop
      </Link>
    </Box>
  );
}

/** The server has another version now, or does not answer: the parts this page still needs cannot be fetched. */
const Outdated = () => (
  <Box as="main" maxW="40rem" mx="auto" p="8">
    <Heading as="h1" size="2xl" mb="3">
      Load this page again
    </Heading>
    <Text mb="4">
      A part of Wet Test that this page needs could not be fetched: it was updated meanwhile, or the server
      does not run. What you recorded is stored and safe.
    </Text>
    <Button size="xl" colorPalette="buoy" onClick={() => window.location.reload()}>
      Load again
    </Button>
  </Box>
);
