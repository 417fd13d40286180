import { Link } from 'react-router';
import { TargetPicture } from '../board/target-picture.tsx';
import { Box, Button, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { ImportTrial } from './import-trial.tsx';

/** An empty workshop says what will be here and gives the one thing to do. */
export function Empty() {
  const workshop = useWorkshop();
  return (
    <Grid
      templateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,7fr) minmax(0,4fr)' }}
      gap="12"
      alignItems="center"
    >
      <Box>
        <Heading as="h1" size="4xl" mb="4">
          Make test pieces you can learn from
        </Heading>
        <Text fontSize="1.15rem" mb="3">
          Put a question to your own bench: which medium, how long to wait, which paper. Wet Test lays out a
          board of small patches, prints them mirrored and labelled, keeps the clock while your hands are wet,
          measures every patch from a photo, says what went wrong, and keeps what you learnt as a recipe.
        </Text>
        <Text mb="6" color="fg.muted">
          Here you will see what needs hands now and what is drying until when. Nothing leaves this browser
          unless you export it.
        </Text>
        <HStack gap="3" wrap="wrap">
          <Button asChild size="xl" colorPalette="buoy">
            <Link to={`/w/${workshop}/new`}>Plan your first trial</Link>
          </Button>
          {workshop === 'mine' && (
            <Button asChild size="xl" variant="outline">
              <Link to="/w/demo">Look round the demo workshop</Link>
            </Button>
          )}
          <ImportTrial />
        </HStack>
      </Box>
      <Box maxW="26rem">
        <svg
          viewBox="-1 -1 42 42"
          width="100%"
          role="img"
          aria-label="The test target: solids, tone steps, a boat, falling lines and text"
        >
          <TargetPicture size={40} />
        </svg>
        <Text color="fg.muted" mt="2">
          The test target that goes on every patch. What is missing from it tells what went wrong.
        </Text>
      </Box>
    </Grid>
  );
}
