import { type RefObject, useCallback, useEffect } from 'react';
import { useNavigate } from 'react-router';
import { goesThere, type Screen } from '../../core/advice/index.ts';
import { within } from '../../core/say/index.ts';
import type { Action } from '../../core/schedule/index.ts';
import type { TrialPlan } from '../../core/trial/index.ts';
import { presentMs, setAtHand, type WorkshopName } from '../../store/index.ts';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';

/** These hands have something else to do first, of another trial: which, until when, and the way to it. */
export function Elsewhere({
  trial,
  action,
  isAtHand,
  here,
  leave,
  workshop,
  screen,
  now,
}: {
  trial: TrialPlan;
  action: Exclude<Action, { kind: 'finished' }>;
  isAtHand: boolean;
  here: TrialPlan;
  leave: () => void;
  workshop: WorkshopName;
  screen: RefObject<Screen>;
  now: number;
}) {
  const navigate = useNavigate();
  const go = useCallback(
    () => goesThere(screen.current, presentMs()) && void navigate(`/w/${workshop}/t/${trial.id}/bench`),
    [navigate, workshop, trial.id, screen],
  );
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.key !== ' ' && e.key !== 'Enter' && e.key !== 'PageDown') return;
      if (e.target instanceof HTMLButtonElement) return;
      e.preventDefault();
      if (!e.repeat) go();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [go]);
  const { window: due } = action.status;
  return (
    <Flex direction="column" minH="100dvh" as="main">
      <Flex px="4" pt="2" gap="2" align="center" wrap="wrap">
        <Button variant="ghost" minH="44px" onClick={leave}>
          Leave the bench
        </Button>
        <Text flex="1" color="fg.muted" truncate>
          {here.name}
        </Text>
      </Flex>
      <Box flex="1" px={{ base: '4', md: '6' }} pt="4">
        <Text color="fg.muted" fontSize="1.2rem">
          {isAtHand ? 'Your hands are at another trial' : 'Another trial comes first'}: <b>{trial.name}</b>
        </Text>
        <Text
          as="h1"
          fontFamily="heading"
          fontWeight="700"
          fontSize={{ base: '2.3rem', md: '3.4rem' }}
          lineHeight="1.05"
          mt="2"
        >
          {action.kind === 'wait' ? `Wait, then ${within(action.link.step.action)}` : action.link.step.action}
        </Text>
        <Text fontWeight="700" fontSize={{ base: '1.9rem', md: '2.6rem' }} letterSpacing="0.02em">
          {action.patch.code}
        </Text>
        <Text fontSize="1.3rem" mt="2">
          {action.kind === 'wait' && `From ${moment(action.until, now)}. `}
          {due && Number.isFinite(due.closes) && `Until ${moment(due.closes, now)}.`}
        </Text>
        {isAtHand && (
          <Button variant="outline" minH="48px" mt="5" onClick={() => setAtHand(workshop, undefined)}>
            I have put that aside
          </Button>
        )}
      </Box>
      <Button
        size="2xl"
        colorPalette="buoy"
        onClick={go}
        w="100%"
        minH={{ base: '22dvh', md: '24dvh' }}
        rounded="none"
        fontSize={{ base: '2.2rem', md: '3rem' }}
        fontFamily="heading"
        whiteSpace="normal"
      >
        Go to its bench
      </Button>
    </Flex>
  );
}
