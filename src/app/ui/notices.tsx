import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from 'react';
import { type Problem, ProblemError } from '../../core/outcome/index.ts';
import { say, type Words } from '../../core/say/index.ts';
import { Box, Button, Flex, Text } from './kit.tsx';
import { Said, useSettings } from './settings.tsx';

interface Notice {
  readonly say: Words;
  readonly wayOut?: Words;
  readonly wrong?: boolean;
  readonly undo?: () => void;
}

const Context = createContext<(notice: Notice) => void>(() => {});

/** Tells the user something in one place at the foot of the page; good news goes by itself, what went wrong stays until it is closed. */
export const useNotice = () => useContext(Context);

/** How long a notice stays, ms: good news for a while; what went wrong, or can be taken back, until it is closed (nothing). */
export const staysMs = ({ wrong, undo }: Notice): number | undefined => (wrong || undo ? undefined : 8000);

/** A problem as a notice. */
export const asNotice = (problem: Problem): Notice => ({
  say: problem.say,
  wayOut: problem.wayOut,
  wrong: true,
});

/** An error thrown by work that writes, as a notice: storage that is full, blocked or broken above all. */
export const notSaved = (error: unknown): Notice => {
  if (error instanceof ProblemError)
    return { say: say`That was not saved. ${error.problem.say}`, wayOut: error.problem.wayOut, wrong: true };
  return {
    say: `That was not saved: ${error instanceof Error ? error.message : 'the browser refused'}.`,
    wayOut: 'Check that this browser may store data and has room, then do it again.',
    wrong: true,
  };
};

/** An error thrown by work that stores nothing, as a notice: nothing is lost by it. */
export const didNotWork = (error: unknown): Notice => {
  if (error instanceof ProblemError) return asNotice(error.problem);
  const why = error instanceof Error && error.message ? error.message.replace(/\.$/, '') : undefined;
  return {
    say: why ? `That did not work: ${why}.` : 'That did not work.',
    wayOut: 'What you have stored is as it was. Do it again, or load the page again.',
    wrong: true,
  };
};

/**
 * Does something that writes, or (`didNotWork`) makes what nothing stored depends on. Says whether it was done; where it
 * was not, the notice says why.
 */
export function useAttempt(asWords: (error: unknown) => Notice = notSaved) {
  const tell = useNotice();
  return useCallback(
    async (work: () => Promise<unknown>): Promise<boolean> => {
      try {
        await work();
        return true;
      } catch (error) {
        tell(asWords(error));
        return false;
      }
    },
    [tell, asWords],
  );
}

/** A setting was changed, and this browser does not keep it. */
const UNKEPT: Notice = {
  say: 'This browser did not keep that setting: it holds until you close this page.',
  wayOut: 'Allow this page to keep data, or make room in the browser’s storage.',
  wrong: true,
};

export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice>();
  const show = useCallback((next: Notice) => setNotice(next), []);
  const { unkept } = useSettings();
  useEffect(() => {
    if (unkept) setNotice(UNKEPT);
  }, [unkept]);
  useEffect(() => {
    const stays = notice && staysMs(notice);
    if (!stays) return;
    const timer = setTimeout(() => setNotice(undefined), stays);
    return () => clearTimeout(timer);
  }, [notice]);
  return (
    <Context.Provider value={show}>
      {children}
      <Box
        position="fixed"
        left="0"
        right="0"
        bottom="0"
        zIndex="toast"
        pointerEvents="none"
        role="status"
        aria-live="polite"
      >
        {notice && (
          <Flex
            m="3"
            p="3"
            maxW="46rem"
            mx="auto"
            bg="fg"
            pointerEvents="auto"
            color="bg"
            align="center"
            gap="3"
            wrap="wrap"
          >
            <Text flex="1" minW="12rem">
              <b>{notice.wrong ? 'Not done. ' : ''}</b>
              <Said>{[notice.say, ' ', notice.wayOut ?? '']}</Said>
            </Text>
            {notice.undo && (
              <Button
                size="sm"
                variant="outline"
                color="bg"
                _hover={{ bg: 'fg.muted' }}
                onClick={() => {
                  notice.undo?.();
                  setNotice(undefined);
                }}
              >
                Undo
              </Button>
            )}
            <Button
              size="sm"
              variant="outline"
              color="bg"
              _hover={{ bg: 'fg.muted' }}
              onClick={() => setNotice(undefined)}
            >
              Close
            </Button>
          </Flex>
        )}
      </Box>
    </Context.Provider>
  );
}
