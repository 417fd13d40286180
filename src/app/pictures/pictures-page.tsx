import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Picture } from '../../core/artwork/index.ts';
import { METHODS } from '../../core/methods/index.ts';
import { requestFor } from '../../core/questions/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { useMethods, usePictures, useShelf, useWorkshopActions } from '../../store/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { asNotice, notSaved, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { addPicture } from './add-picture.ts';
import { PictureEditor } from './picture-editor.tsx';

/** The maker's own pictures, made ready to print. */
export function PicturesPage() {
  const workshop = useWorkshop();
  const pictures = usePictures(workshop);
  const shelf = useShelf(workshop);
  const own = useMethods(workshop);
  const [params, setParams] = useSearchParams();
  if (pictures.isError)
    return (
      <Box as="main" p="6">
        <Heading as="h1" size="2xl" mb="2">
          The pictures cannot be opened
        </Heading>
        <Text>This browser may be blocking storage for this page. Allow it, then load the page again.</Text>
      </Box>
    );
  if (!pictures.data || !shelf.data || !own.data)
    return (
      <Box p="8" role="status">
        Opening your pictures…
      </Box>
    );
  const chosen = pictures.data.find(p => p.id === params.get('picture')) ?? pictures.data[0];
  const open = (id: string) => setParams({ picture: id }, { replace: true });
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="4" pb="24">
      <Flex gap="4" align="center" wrap="wrap" mb="3">
        <Heading as="h1" size="3xl" flex="1" minW="12rem">
          Pictures
        </Heading>
        <Adder shelf={shelf.data.shelf} isFirst={!chosen} onAdded={open} />
      </Flex>
      {chosen ? (
        <>
          <HStack as="nav" aria-label="Your pictures" gap="0" wrap="wrap" borderBottomWidth="1px" mb="4">
            {pictures.data.map(p => (
              <Button
                key={p.id}
                variant="plain"
                color="fg"
                minH="44px"
                borderRadius="0"
                fontWeight={p.id === chosen.id ? 700 : 400}
                aria-current={p.id === chosen.id ? 'true' : undefined}
                boxShadow={p.id === chosen.id ? 'inset 0 -4px 0 var(--chakra-colors-buoy-solid)' : undefined}
                onClick={() => open(p.id)}
              >
                {p.name}
              </Button>
            ))}
          </HStack>
          <PictureEditor
            key={chosen.id}
            stored={chosen}
            shelf={shelf.data.shelf}
            methods={[...METHODS, ...own.data]}
          />
        </>
      ) : (
        <Box maxW="44rem">
          <Text fontSize="1.15rem">
            Add a picture of your own: see what it will look like on your wood, cloth or slate before you
            print it, whether it is fit for the method, and get it on a sheet the right way round and true to
            size.
          </Text>
          <Text color="fg.muted" mt="2">
            Most prints are lost before they begin: not mirrored, whites forgotten, lines too fine. PNG, JPEG,
            WebP or SVG, up to 50 million pixels. It stays in this browser.
          </Text>
        </Box>
      )}
    </Box>
  );
}

function Adder({
  shelf,
  isFirst,
  onAdded,
}: {
  shelf: Shelf;
  isFirst: boolean;
  onAdded: (id: string) => void;
}) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const { addPicture: keep } = useWorkshopActions(workshop);
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const added = await addPicture(file, startWith(shelf));
      if (!added.ok) return tell(asNotice(added.problem));
      const { picture, original, pixels, notes } = added.value;
      await keep(picture, original, pixels);
      onAdded(picture.id);
      tell({ say: `${picture.name} is here. ${notes.join(' ')}` });
    } catch (error) {
      tell(notSaved(error));
    } finally {
      setBusy(false);
    }
  };
  const sample = async () => {
    const drawing = await (await fetch('/sample/lighthouse.svg')).blob();
    await take(new File([drawing], 'Lighthouse.svg', { type: 'image/svg+xml' }));
  };
  return (
    <HStack gap="2" wrap="wrap">
      <FileButton
        accept="image/png,image/jpeg,image/webp,image/svg+xml,.svg"
        label="Picture file"
        onFile={file => void take(file)}
        colorPalette={isFirst ? 'buoy' : 'tide'}
        minH="48px"
        loading={busy}
        loadingText="Opening"
      >
        Add a picture
      </FileButton>
      {isFirst && (
        <Button variant="outline" minH="48px" disabled={busy} onClick={() => void sample()}>
          Try it with a drawing of ours
        </Button>
      )}
    </HStack>
  );
}

/** What a new picture is looked at with: the first method's usual way, on three grounds that differ. */
function startWith(shelf: Shelf): Pick<Picture, 'method' | 'printer' | 'donor' | 'grounds'> {
  const usual = requestFor(METHODS[0], shelf);
  const grounds = ['birch-ply', 'slate', 'cotton'].filter(id => shelf.substrates.some(s => s.id === id));
  return {
    method: METHODS[0].id,
    printer: usual.ok ? usual.value.usual.printer : (shelf.printers[0]?.id ?? ''),
    donor: usual.ok ? usual.value.usual.donor : (shelf.donors[0]?.id ?? ''),
    grounds: grounds.length ? grounds : shelf.substrates.slice(0, 2).map(s => s.id),
  };
}
