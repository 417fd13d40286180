import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { factorName } from '../../core/factors/index.ts';
import { copyMethod, findMethod, METHODS, type Method } from '../../core/methods/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import { requestFor } from '../../core/questions/index.ts';
import { within } from '../../core/say/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';
import { useMethods, useShelf, useWorkshopActions } from '../../store/index.ts';
import { Cautions } from '../ui/cautions.tsx';
import { Box, Button, Flex, Heading, HStack, Text } from '../ui/kit.tsx';
import { notSaved, useAttempt, useNotice } from '../ui/notices.tsx';
import { Said } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { MethodEditor } from './method-editor.tsx';
import { MethodLine } from './method-line.tsx';

/** All ways of transferring: each as a line of steps with its windows, and the maker's own copies of them. */
export function MethodsPage() {
  const workshop = useWorkshop();
  const shelf = useShelf(workshop);
  const own = useMethods(workshop);
  const [params, setParams] = useSearchParams();
  const [editing, setEditing] = useState<{ readonly method: Method; readonly before?: Method }>();
  const tell = useNotice();
  const { addMethod, saveMethod, removeMethod } = useWorkshopActions(workshop);
  const attempt = useAttempt();
  if (!shelf.data || !own.data)
    return (
      <Box p="8" role="status">
        Opening the methods…
      </Box>
    );
  const all = [...METHODS, ...own.data];
  const method = findMethod(params.get('method') ?? '', own.data) ?? METHODS[0];
  const show = (id: string) => {
    setEditing(undefined);
    setParams({ method: id }, { replace: true });
  };
  const save = async (changed: Method) => {
    try {
      // A copy gets its id when it is kept: another tab may have kept one meanwhile.
      const kept = editing?.before ? changed : await addMethod(changed);
      if (editing?.before) await saveMethod(changed, editing.before);
      show(kept.id);
      tell({ say: `${changed.name} is among your methods. Trials planned before keep the steps they had.` });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  const remove = async () => {
    try {
      await removeMethod(method.id);
      show(method.copiedFrom ?? METHODS[0].id);
      tell({
        say: `${method.name} was removed. Trials that used it keep it.`,
        undo: () => void attempt(() => saveMethod(method)),
      });
    } catch (error) {
      tell(notSaved(error));
    }
  };
  return (
    <Box as="main" px={{ base: '4', md: '6' }} pt="4" pb="24">
      <Heading as="h1" size="3xl" mb="1">
        Methods
      </Heading>
      <Text color="fg.muted" mb="4">
        Times are starting points to be tested, not promises. Copy one to write down how you do it.
      </Text>
      <Flex gap={{ base: '4', lg: '10' }} direction={{ base: 'column', lg: 'row' }} align="start">
        <Box
          as="nav"
          aria-label="Methods"
          w={{ base: '100%', lg: '19rem' }}
          flex="none"
          maxH={{ base: '13rem', lg: 'none' }}
          overflowY="auto"
          borderTopWidth="1px"
        >
          {all.map((m, i) => (
            <Button
              key={m.id}
              variant="plain"
              w="100%"
              minH="44px"
              h="auto"
              py="1.5"
              px="2"
              justifyContent="start"
              textAlign="start"
              whiteSpace="normal"
              borderBottomWidth="1px"
              borderRadius="0"
              color="fg"
              fontWeight={m.id === method.id ? 700 : 400}
              bg={m.id === method.id ? 'buoy.subtle' : undefined}
              aria-current={m.id === method.id ? 'true' : undefined}
              onClick={() => show(m.id)}
            >
              <Text as="span" color="fg.muted" w="2ch" flex="none" textAlign="end" fontWeight="400">
                {m.copiedFrom ? '' : i + 1}
              </Text>
              {m.name}
            </Button>
          ))}
        </Box>
        <Box flex="1" minW="0" w="100%">
          {editing ? (
            <MethodEditor
              key={editing.method.id}
              method={editing.method}
              onSave={save}
              onCancel={() => setEditing(undefined)}
            />
          ) : (
            <MethodView
              method={method}
              shelf={shelf.data.shelf}
              workshop={workshop}
              onCopy={() =>
                setEditing({
                  method: copyMethod(
                    method,
                    own.data.map(m => m.id),
                  ),
                })
              }
              onEdit={method.copiedFrom ? () => setEditing({ method, before: method }) : undefined}
              onRemove={method.copiedFrom ? () => void remove() : undefined}
            />
          )}
        </Box>
      </Flex>
    </Box>
  );
}

function MethodView({
  method,
  shelf,
  workshop,
  onCopy,
  onEdit,
  onRemove,
}: {
  method: Method;
  shelf: Shelf;
  workshop: string;
  onCopy: () => void;
  onEdit?: () => void;
  onRemove?: () => void;
}) {
  const request = requestFor(method, shelf);
  const { takes } = method;
  const facts: [string, string][] = [
    ['Mirror', `${method.mirror ? 'Mirrored.' : 'Not mirrored.'} ${method.mirrorReason}`],
    ['Colourant', takes.colourants.join(', ')],
    ['Donor sheet', takes.donors.join(', ')],
    ['Medium', takes.mediums.map(m => (m === 'none' ? 'none needed' : m)).join(', ')],
    ['Onto', takes.substrates.join(', ')],
    ['May be varied', method.vary.map(key => within(factorName(key, method))).join(', ')],
    ['Finish', method.finish],
    ['Care', method.care],
  ];
  return (
    <Box>
      <Heading as="h2" size="2xl">
        {method.name}
      </Heading>
      <Text fontSize="1.15rem" mt="1" mb="3">
        {method.summary}
      </Text>
      <HStack gap="2" wrap="wrap" mb="4">
        <Button asChild colorPalette="buoy" minH="48px" px="5">
          <Link to={`/w/${workshop}/new/plan?from=plain:${method.id}`}>Plan a trial with it</Link>
        </Button>
        {onEdit ? (
          <Button variant="outline" minH="44px" onClick={onEdit}>
            Change its steps
          </Button>
        ) : (
          <Button variant="outline" minH="44px" onClick={onCopy}>
            Copy it and change the steps
          </Button>
        )}
        {onRemove && (
          <Button variant="ghost" minH="44px" onClick={onRemove}>
            Remove it
          </Button>
        )}
      </HStack>
      <Cautions ids={method.setUpCautions} />
      {!request.ok && (
        <Text mt="3" color="warn.fg">
          <Said>{problemWords(request.problem)}</Said>
        </Text>
      )}
      <MethodLine method={method} request={request.ok ? request.value : undefined} shelf={shelf} />
      {method.schools.length > 0 && (
        <Box mt="5">
          <Heading as="h3" size="lg" mb="1">
            Where makers disagree
          </Heading>
          {method.schools.map(s => (
            <Flex key={s.about} borderTopWidth="1px" py="2" gap="2" direction={{ base: 'column', md: 'row' }}>
              <Text fontWeight="700" w="12rem" flex="none">
                {s.about}
              </Text>
              <Text flex="1">Some: {s.one}</Text>
              <Text flex="1">Others: {s.other}</Text>
            </Flex>
          ))}
        </Box>
      )}
      <Box mt="5">
        {facts.map(([what, text]) => (
          <Flex key={what} borderTopWidth="1px" py="2" gap="2" direction={{ base: 'column', md: 'row' }}>
            <Text fontWeight="700" w="12rem" flex="none">
              {what}
            </Text>
            <Text>{text}</Text>
          </Flex>
        ))}
      </Box>
    </Box>
  );
}
