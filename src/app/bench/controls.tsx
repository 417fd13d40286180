import type { ReactNode } from 'react';
import type { Screen } from '../../core/advice/index.ts';
import type { Sign } from '../../core/drying/index.ts';
import type { Action } from '../../core/schedule/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';
import type { AsideName } from './asides.tsx';

/** The one huge control at the foot of the bench, and above it what can happen beside the work. */
export function Controls({
  action,
  now,
  said,
  mine,
  busy,
  aside,
  sign,
  done,
  notYet,
  later,
  open,
  children,
}: {
  action: Exclude<Action, { kind: 'finished' }>;
  now: number;
  /** Why the press before did not count. */
  said: Screen['said'];
  mine: boolean;
  busy: boolean;
  aside: AsideName | undefined;
  /** What has to be seen before the action; the press says that it was. */
  sign: Sign | undefined;
  done: () => void;
  /** It was looked at, and is not ready. */
  notYet: () => void;
  /** Puts the action aside for another. */
  later: () => void;
  open: (name: AsideName) => void;
  children: ReactNode;
}) {
  const { step } = action.link;
  const isCoated = action.status.last?.step.does === 'coat';
  return (
    <Box position="sticky" bottom="0" zIndex="docked" bg="bg">
      <Flex px={{ base: '2', md: '4' }} py="2" gap={{ base: '1', md: '2' }} wrap="wrap">
        {(
          [
            ...(action.kind === 'do' && !sign ? [['late', 'I was late', 'Late']] : []),
            ['spoilt', 'Spoilt', 'Spoilt'],
            ...(action.kind === 'do' && step.does !== 'mark' ? [['skip', 'Skip', 'Skip']] : []),
            ['note', 'Note', 'Note'],
            ['photo', 'Photo now', 'Photo'],
            ...(isCoated ? [['weigh', 'Weigh the coat', 'Weigh']] : []),
            ...(action.kind === 'do' && step.does === 'look' ? [['feel', 'How it feels', 'Feel']] : []),
          ] as [AsideName, string, string][]
        ).map(([name, words, short]) => (
          <Button
            key={name}
            variant={aside === name ? 'solid' : 'outline'}
            colorPalette="tide"
            minH="48px"
            px={{ base: '1', md: '4' }}
            minW="44px"
            aria-label={words}
            aria-expanded={aside === name}
            disabled={!mine}
            onClick={() => open(name)}
          >
            <Box as="span" display={{ base: 'inline', md: 'none' }}>
              {short}
            </Box>
            <Box as="span" display={{ base: 'none', md: 'inline' }}>
              {words}
            </Box>
          </Button>
        ))}
        {sign && (
          <Button
            colorPalette="tide"
            minH="48px"
            px={{ base: '2', md: '4' }}
            disabled={!mine || busy}
            title="Key: R"
            onClick={notYet}
          >
            Not ready yet
          </Button>
        )}
        {action.kind === 'do' && (
          <Button
            variant="outline"
            colorPalette="tide"
            minH="48px"
            px={{ base: '1', md: '4' }}
            disabled={!mine}
            title="Key: D"
            onClick={later}
          >
            Not now
          </Button>
        )}
      </Flex>
      {children}
      <Button
        colorPalette={action.kind === 'wait' ? 'tide' : 'buoy'}
        variant={action.kind === 'wait' ? 'outline' : 'solid'}
        onClick={done}
        loading={busy}
        disabled={!mine}
        w="100%"
        minH={{ base: '22dvh', md: '24dvh' }}
        rounded="none"
        fontSize={{ base: '2.2rem', md: '3rem' }}
        fontFamily="heading"
        whiteSpace="normal"
        lineHeight="1.15"
      >
        {said === 'too soon' ? (
          action.kind === 'wait' && action.status.window && now >= action.status.window.opens ? (
            `Not due until ${moment(action.until, now)}. Press again if it is done`
          ) : (
            'Really now? It is too soon. Press again'
          )
        ) : action.kind === 'wait' ? (
          `Waiting until ${moment(action.until, now)}`
        ) : (
          <Flex direction="column" align="center" lineHeight="1.2">
            <span>{sign ? 'Yes, it is ready' : step.done}</span>
            <Text as="span" fontSize="0.5em" fontWeight="600">
              {said === 'just changed'
                ? 'This has just come up: read it, then press'
                : said === 'in its place'
                  ? `This took the place of what you were at. Press again if ${action.patch.code} is done`
                  : said === 'too quick'
                    ? `That was quick: press again if ${action.patch.code} is done too`
                    : action.patch.code}
            </Text>
          </Flex>
        )}
      </Button>
    </Box>
  );
}
