import { Table } from '@chakra-ui/react';
import { useState } from 'react';
import { problemWords } from '../../core/outcome/index.ts';
import { type RecipeBook, realRun, settingsIn, shoppingCsv } from '../../core/recipe-book/index.ts';
import { agree, span } from '../../core/say/index.ts';
import { useShelf } from '../../store/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Heading, HStack, Text } from '../ui/kit.tsx';
import { saveFile } from '../ui/save-file.ts';
import { Said } from '../ui/settings.tsx';
import { useWorkshop } from '../workshop/workshop.ts';
import { CountField } from './count-field.tsx';
import { OnTheBench } from './on-the-bench.tsx';

/** From so many judged on, how often it comes out good is known well enough. */
const WELL_KNOWN = 8;

/** "Make it for real": size and number in, out comes how many to begin, what it takes, what to buy and what it costs. */
export function RealPanel({ book }: { book: RecipeBook }) {
  const shelf = useShelf(useWorkshop()).data?.shelf;
  const [size, setSize] = useState({ w: 200, h: 150 });
  const [wanted, setWanted] = useState(2);
  const [certainty, setCertainty] = useState('0.9');
  const s = settingsIn(book.now);
  const onHand = {
    ml: shelf?.mediums.find(m => m.id === s.medium.id)?.onHandMl ?? 0,
    sheets: shelf?.donors.find(d => d.id === s.donor.id)?.onHand ?? 0,
  };
  const run = realRun(book.now, book.seen, { ...size, count: wanted, certainty: Number(certainty) }, onHand);
  const money = (v: number) => v.toFixed(2);
  return (
    <Box as="section" aria-label="Make it for real" mt="8" borderTopWidth="3px" borderColor="fg" pt="3">
      <Heading as="h2" size="xl" mb="2">
        Make it for real
      </Heading>
      <HStack gap="3" wrap="wrap" align="end">
        <CountField
          label="Picture across, mm"
          limit="patchMm"
          value={size.w}
          onChange={w => setSize({ ...size, w })}
        />
        <CountField
          label="Picture down, mm"
          limit="patchMm"
          value={size.h}
          onChange={h => setSize({ ...size, h })}
        />
        <CountField label="Good ones wanted" value={wanted} onChange={setWanted} limit="wanted" />
        <Choose
          label="How sure"
          value={certainty}
          onChange={setCertainty}
          options={[
            ['0.75', 'three times in four'],
            ['0.9', 'nine times in ten'],
            ['0.95', '19 times in 20'],
          ]}
        />
      </HStack>
      {!run.ok ? (
        <Text mt="3" role="status">
          <Said>{problemWords(run.problem)}</Said>
        </Text>
      ) : (
        <Box mt="4" aria-live="polite">
          <Text fontSize="1.5rem" fontFamily="heading" fontWeight="700">
            Begin {run.value.pieces}, for {wanted} good {agree(wanted, 'one', 'ones')}.
          </Text>
          {book.seen.of < WELL_KNOWN && (
            <Text>
              So many because only {book.seen.of} were judged: a few more test patches first cost less.
            </Text>
          )}
          <Text>
            <Said>
              {`About ${span(run.value.handsMin)} of hands in all, and ${span(60 * run.value.hours)} from the first step to the last: waits count once, all pieces go together. Hands are those of a test patch; a larger piece takes longer.`}
            </Said>
          </Text>
          {run.value.sheetsEach > 1 && (
            <Text mt="1">
              It is larger than a sheet: each is printed on {run.value.sheetsEach} sheets and joined. Test the
              joint on a scrap first.
            </Text>
          )}
          <Table.Root size="sm" mt="3" maxW="40rem">
            <Table.Body>
              {run.value.lines.map(l => (
                <Table.Row key={l.what} bg="transparent">
                  <Table.Cell ps="0">{l.what}</Table.Cell>
                  <Table.Cell>
                    <Said>{l.amount}</Said>
                  </Table.Cell>
                  <Table.Cell textAlign="end">{money(l.price)}</Table.Cell>
                </Table.Row>
              ))}
              <Table.Row bg="transparent" fontWeight="700">
                <Table.Cell ps="0">In all</Table.Cell>
                <Table.Cell>{money(run.value.each)} for each good one</Table.Cell>
                <Table.Cell textAlign="end">{money(run.value.total)}</Table.Cell>
              </Table.Row>
            </Table.Body>
          </Table.Root>
          <Text mt="3" fontWeight="700">
            {run.value.buy.length ? 'To buy first' : 'All of it is on your shelf.'}
          </Text>
          {run.value.buy.map(b => (
            <Text key={b.what}>
              {b.what}: <Said>{b.amount}</Said>
            </Text>
          ))}
          <OnTheBench {...{ book, size }} pieces={run.value.pieces} isTooLarge={run.value.sheetsEach > 1} />
          <Button
            mt="3"
            minH="48px"
            variant="outline"
            onClick={() =>
              saveFile(new Blob([shoppingCsv(run.value)], { type: 'text/csv' }), 'shopping-list.csv')
            }
          >
            Shopping list (CSV)
          </Button>
        </Box>
      )}
    </Box>
  );
}
