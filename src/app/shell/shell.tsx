import { chakra } from '@chakra-ui/react';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useNavigationType } from 'react-router';
import { systemAfter, systemName } from '../../core/say/index.ts';
import { useWorkshopActions } from '../../store/index.ts';
import { Box, Button, Flex, HStack, Text } from '../ui/kit.tsx';
import { Notices } from '../ui/notices.tsx';
import { useTitle } from '../ui/page-focus.ts';
import { useSettings } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { useOffline } from './offline.ts';
import { titleOf } from './titles.ts';

// Fetched when they are asked for.
const KeyList = lazy(async () => ({ default: (await import('./key-list.tsx')).KeyList }));
const LongWaits = lazy(async () => ({ default: (await import('./long-waits.tsx')).LongWaits }));
const RouterLink = chakra(Link);
const RouterNavLink = chakra(NavLink);
/** Past the places of the workshop, for keys; seen only while it has the focus. */
const SkipLink = chakra('a', {
  base: {
    position: 'absolute',
    left: '2',
    top: '-20',
    zIndex: 'skipNav',
    px: '4',
    lineHeight: '44px',
    bg: 'bg.panel',
    fontWeight: '700',
    borderWidth: '2px',
    _focus: { top: '2' },
  },
});

/** Header, demo notice and the page; the bench view brings its own frame. */
export function Shell() {
  const workshop = useWorkshop();
  const { settings, change } = useSettings();
  /** Whether the list of keys is open; nothing before it is asked for. */
  const [keys, setKeys] = useState<boolean>();
  const { newer, takeOver } = useOffline();
  const { pathname } = useLocation();
  const onBench = pathname.endsWith('/bench');
  // Another page begins at its top; another stage of the same trial stays where the board is.
  const page = pathname.split('/').slice(0, 5).join('/');
  const how = useNavigationType();
  const content = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the page changes, and only then
  useEffect(() => {
    if (how !== 'PUSH') return;
    window.scrollTo(0, 0);
    // The eye is at the new page: keys and a reading voice go there too.
    content.current?.focus({ preventScroll: true });
  }, [page]);
  useTitle(titleOf(pathname));
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && /INPUT|TEXTAREA|SELECT/.test(event.target.tagName);
      if (event.key === '?' && !typing) setKeys(open => !open);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return (
    <Notices>
      {!onBench && (
        <SkipLink
          href="#page"
          onClick={e => {
            e.preventDefault();
            content.current?.focus();
          }}
        >
          To the page itself
        </SkipLink>
      )}
      {!onBench && (
        <Flex
          as="header"
          align="center"
          gap="3"
          px={{ base: '4', md: '6' }}
          py="2"
          borderBottomWidth="1px"
          wrap="wrap"
          rowGap="0"
        >
          <RouterLink
            to={`/w/${workshop}`}
            fontFamily="heading"
            fontWeight="750"
            fontSize="1.35rem"
            lineHeight="44px"
            letterSpacing="-0.02em"
          >
            Wet Test
          </RouterLink>
          <Text color="fg.muted" truncate minW="0" display={{ base: 'none', md: 'block' }}>
            {workshop === 'demo' ? 'Gannet Slip (demo)' : 'Your workshop'}
          </Text>
          <HStack
            as="nav"
            aria-label="Workshop"
            gap="0"
            wrap="wrap"
            flex={{ md: '1' }}
            order={{ base: 3, md: 0 }}
            w={{ base: '100%', md: 'auto' }}
            ms={{ base: '-1', md: '0' }}
          >
            {(
              [
                ['', 'Trials'],
                ['/shelf', 'Shelf'],
                ['/methods', 'Methods'],
                ['/pictures', 'Pictures'],
                ['/known', 'Known'],
                ['/recipes', 'Recipes'],
                ['/safe', 'Safe'],
              ] as const
            ).map(([path, label]) => (
              <RouterNavLink
                key={path}
                to={`/w/${workshop}${path}`}
                end={path === ''}
                px={{ base: '1', md: '3' }}
                fontSize={{ base: '0.9rem', md: 'inherit' }}
                lineHeight="44px"
                css={{ '&.active': { fontWeight: 700 } }}
              >
                {label}
              </RouterNavLink>
            ))}
          </HStack>
          <HStack gap="1" ms={{ base: 'auto', md: '0' }}>
            <RouterLink
              to={`/w/${workshop}/find`}
              px="2"
              lineHeight="44px"
              fontWeight="600"
              fontSize="0.9rem"
            >
              Find
            </RouterLink>
            <Plain
              onClick={() => change({ system: systemAfter(settings.system) })}
              label={`Measures: ${systemName(settings.system).words}. Switch to ${systemName(systemAfter(settings.system)).words}`}
            >
              {systemName(settings.system).short}
            </Plain>
            <Plain
              onClick={() => change({ mode: settings.mode === 'dark' ? 'light' : 'dark' })}
              label={`Switch to ${settings.mode === 'dark' ? 'daylight' : 'lamplight'} colours`}
            >
              {settings.mode === 'dark' ? 'Lamp' : 'Day'}
            </Plain>
            <Plain onClick={() => setKeys(true)} label="List the keys">
              ?
            </Plain>
          </HStack>
        </Flex>
      )}
      {newer && !onBench && <NewerNotice takeOver={takeOver} />}
      {workshop === 'demo' && !onBench && <DemoNotice />}
      {settings.notify && (
        <Suspense>
          <LongWaits workshop={workshop} />
        </Suspense>
      )}
      <Box id="page" ref={content} tabIndex={-1} outline="none">
        <Outlet />
      </Box>
      {keys !== undefined && (
        <Suspense>
          <KeyList open={keys} onClose={() => setKeys(false)} />
        </Suspense>
      )}
    </Notices>
  );
}

function Plain({
  onClick,
  label,
  children,
}: {
  onClick: () => void;
  label: string;
  children: React.ReactNode;
}) {
  return (
    <Button
      variant="ghost"
      size="sm"
      minW="44px"
      minH="44px"
      px="2"
      aria-label={label}
      title={label}
      onClick={onClick}
    >
      {children}
    </Button>
  );
}

/** A newer version is here and waits to be asked for. */
function NewerNotice({ takeOver }: { takeOver: () => void }) {
  return (
    <Flex
      role="status"
      bg="tide.subtle"
      px={{ base: '4', md: '6' }}
      py="1"
      align="center"
      gap="3"
      wrap="wrap"
    >
      <Text flex="1" minW="14rem">
        A newer Wet Test is here. Nothing you have stored changes with it.
      </Text>
      <Button size="sm" minH="44px" variant="outline" onClick={takeOver}>
        Load the newer one
      </Button>
    </Flex>
  );
}

function DemoNotice() {
  const { resetDemo } = useWorkshopActions('demo');
  const navigate = useNavigate();
  return (
    <Flex
      bg="tide.subtle"
      px={{ base: '4', md: '6' }}
      py="1"
      align="center"
      gap="3"
      wrap="wrap"
      fontSize="0.95rem"
    >
      <Text flex="1" minW="14rem">
        Made-up sample data, photos from a simulated camera. Nothing you do here touches your own workshop.
      </Text>
      <HStack>
        <Button
          size="sm"
          variant="outline"
          onClick={async () => {
            await resetDemo();
            await navigate('/w/demo');
          }}
        >
          Start the demo over
        </Button>
        <Button size="sm" variant="outline" asChild>
          <Link to="/w/mine">Go to your own</Link>
        </Button>
      </HStack>
    </Flex>
  );
}
