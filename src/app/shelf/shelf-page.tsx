import { Field, Input } from '@chakra-ui/react';
import { useDeferredValue, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { agree, within } from '../../core/say/index.ts';
import {
  copyOf,
  SHELF_KINDS,
  SHELF_NAMES,
  type Shelf,
  type ShelfItem,
  type ShelfKind,
  search,
} from '../../core/shelf/index.ts';
import { useShelf, useWorkshopActions, type WorkshopName } from '../../store/index.ts';
import { FileButton } from '../ui/file-button.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { notSaved, useAttempt, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { ItemForm } from './item-form.tsx';
import { ItemList } from './item-list.tsx';
import { useShelfFile } from './use-shelf-file.ts';

/** The shelf: everything a maker keeps, one kind at a time, with what is known of each. */
export function ShelfPage() {
  const workshop = useWorkshop();
  const stored = useShelf(workshop);
  if (stored.isError)
    return (
      <Box as="main" p="6">
        <Heading as="h1" size="2xl" mb="2">
          The shelf cannot be opened
        </Heading>
        <Text>This browser may be blocking storage for this page. Allow it, then load the page again.</Text>
      </Box>
    );
  if (!stored.data)
    return (
      <Box p="8" role="status">
        Opening the shelf…
      </Box>
    );
  return <Opened shelf={stored.data.shelf} damaged={stored.data.damaged} />;
}

const isKind = (value: string | null): value is ShelfKind => SHELF_KINDS.includes(value as ShelfKind);

function Opened({ shelf, damaged }: { shelf: Shelf; damaged: number }) {
  const workshop = useWorkshop();
  const tell = useNotice();
  const { saveItems, removeItem } = useWorkshopActions(workshop);
  const attempt = useAttempt();
  const [params, setParams] = useSearchParams();
  const given = params.get('kind');
  const kind: ShelfKind = isKind(given) ? given : 'mediums';
  const [query, setQuery] = useState('');
  const [fresh, setFresh] = useState<ShelfItem>();
  const wanted = useDeferredValue(query);
  const items = shelf[kind] as readonly ShelfItem[];
  const found = useMemo(() => search(items, wanted), [items, wanted]);
  const chosen = fresh ?? items.find(i => i.id === params.get('item'));
  const open = (next: { kind?: ShelfKind; item?: string }) => {
    setFresh(undefined);
    setParams(next.item ? { kind: next.kind ?? kind, item: next.item } : { kind: next.kind ?? kind }, {
      replace: true,
    });
  };
  const save = async (item: ShelfItem) => {
    try {
      await saveItems(kind, [item], items);
      open({ item: item.id });
      tell({ say: `${item.name} is on the shelf. Trials made before keep what they used.` });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const remove = async (item: ShelfItem) => {
    try {
      await removeItem(kind, item.id);
      open({});
      tell({
        say: `${item.name} was taken off the shelf. Trials that used it keep it.`,
        undo: () => void attempt(() => saveItems(kind, [item])),
      });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const { many, one } = SHELF_NAMES[kind];
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="4" pb="24">
      <Heading as="h1" size="3xl" mb="1">
        Shelf
      </Heading>
      <Text color="fg.muted" mb="3">
        What you keep, and what Wet Test has to know of it to plan, warn and reckon. Prices are in your own
        money.
      </Text>
      <Kinds
        shelf={shelf}
        kind={kind}
        onChoose={k => {
          setQuery('');
          open({ kind: k });
        }}
      />
      <Flex gap={{ base: '6', lg: '10' }} direction={{ base: 'column', lg: 'row' }} align="start">
        <Box flex="1" w="100%" minW="0">
          <Flex gap="3" wrap="wrap" align="end" mb="3">
            <Field.Root flex="1" minW="12rem">
              <Field.Label>Search {within(many)}</Field.Label>
              <Input value={query} placeholder="gel, matt, 120 g…" onChange={e => setQuery(e.target.value)} />
            </Field.Root>
            <Button
              colorPalette="tide"
              minH="44px"
              onClick={() => {
                open({});
                const model = chosen ?? items[0];
                if (model)
                  setFresh({
                    ...copyOf(
                      model,
                      items.map(i => i.id),
                    ),
                    name: '',
                  });
              }}
            >
              Add a {one}
            </Button>
          </Flex>
          <ItemList
            items={found}
            kind={kind}
            chosen={chosen?.id}
            onChoose={item => open({ item: item.id })}
          />
          {found.length === 0 && (
            <Text py="4">
              Nothing here has all of these words.{' '}
              <Button variant="plain" textDecoration="underline" onClick={() => setQuery('')}>
                Show all {within(many)}
              </Button>
            </Text>
          )}
          <ListFile workshop={workshop} kind={kind} shelf={shelf} />
          {damaged > 0 && (
            <Text mt="3" color="warn.fg">
              {damaged} stored {agree(damaged, 'item', 'items')} cannot be read by this version. Nothing was
              deleted.
            </Text>
          )}
        </Box>
        <Box flex="1" w="100%" minW="0" position={{ lg: 'sticky' }} top="3">
          {chosen ? (
            <ItemForm
              key={`${kind}/${chosen.id}`}
              kind={kind}
              item={chosen}
              isNew={chosen === fresh}
              taken={items.map(i => i.id)}
              onSave={save}
              onCopy={() =>
                setFresh(
                  copyOf(
                    chosen,
                    items.map(i => i.id),
                  ),
                )
              }
              onRemove={() => void remove(chosen)}
              onCancel={() => open({})}
            />
          ) : (
            <Box borderTopWidth="1px" pt="4">
              <Text fontSize="1.1rem">Choose a {one} to see what is known of it and to change it.</Text>
              <Text color="fg.muted" mt="2">
                Something you have is missing? Add it from a copy of the nearest, and give it the name you
                call it by.
              </Text>
            </Box>
          )}
        </Box>
      </Flex>
    </Box>
  );
}

/** The kinds of things on the shelf, with how many there are of each. */
function Kinds({
  shelf,
  kind,
  onChoose,
}: {
  shelf: Shelf;
  kind: ShelfKind;
  onChoose: (kind: ShelfKind) => void;
}) {
  return (
    <Flex as="nav" aria-label="Kinds of things" wrap="wrap" borderBottomWidth="1px" mb="4">
      {SHELF_KINDS.map(k => (
        <Button
          key={k}
          variant="plain"
          px={{ base: '2.5', md: '4' }}
          minH="44px"
          borderRadius="0"
          fontWeight={k === kind ? 700 : 400}
          fontSize="1.05rem"
          color="fg"
          aria-current={k === kind ? 'true' : undefined}
          boxShadow={k === kind ? 'inset 0 -4px 0 var(--chakra-colors-buoy-solid)' : undefined}
          onClick={() => onChoose(k)}
        >
          {SHELF_NAMES[k].many}{' '}
          <Text as="span" color="fg.muted" fontWeight="400" fontSize="0.9rem">
            {shelf[k].length}
          </Text>
        </Button>
      ))}
    </Flex>
  );
}

/** A list as a file, out and in. */
function ListFile({ workshop, kind, shelf }: { workshop: WorkshopName; kind: ShelfKind; shelf: Shelf }) {
  const file = useShelfFile(workshop, kind, shelf);
  const { many } = SHELF_NAMES[kind];
  return (
    <HStack mt="4" gap="2" wrap="wrap">
      <Button variant="outline" size="sm" minH="40px" onClick={file.save}>
        Save this list (CSV)
      </Button>
      <FileButton
        accept=".csv,text/csv"
        label={`CSV file of ${within(many)}`}
        onFile={picked => void file.load(picked)}
        variant="outline"
        size="sm"
        minH="40px"
      >
        Take in a list (CSV)
      </FileButton>
    </HStack>
  );
}
