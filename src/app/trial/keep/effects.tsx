import { Table } from '@chakra-ui/react';
import { lazy, Suspense } from 'react';
import { type Effect, type Findings, findingsCsv, kindOf } from '../../../core/findings/index.ts';
import { within } from '../../../core/say/index.ts';
import { levelName, namesOf } from '../../../core/trial/index.ts';
import { Box, Button, Flex, Heading, Text } from '../../ui/kit.tsx';
import { saveFile } from '../../ui/save-file.ts';
import { Said, useWrite } from '../../ui/settings.tsx';
import { Told } from '../../ui/told.tsx';
import { useTrial } from '../view.tsx';
import { Pairs } from './pairs.tsx';

const EffectChart = lazy(() => import('./effect-chart.tsx'));
const DoseChart = lazy(() => import('./dose-chart.tsx'));

/** The measure that is shown at once; the others are a press away. */
const FIRST = 'landed';

const drawing = <Text color="fg.muted">Drawing the chart…</Text>;

/** What each factor does to each measure: sentence, chart, figures; and the curve of each number. */
export function Effects({ findings }: { findings: Findings }) {
  const { plan, select } = useTrial();
  const said = useWrite();
  const { effects } = findings;
  const others = [...new Set(effects.map(e => e.measure))].filter(id => id !== FIRST);
  const shown = (effect: Effect) => (
    <Box key={`${effect.factor}${effect.measure}`} mb="6">
      <Heading as="h2" size="md">
        {effect.name}: {kindOf(effect.measure).response.heading}
      </Heading>
      <Text mb="1">
        <Told>{effect.sentence}</Told>
      </Text>
      <Suspense fallback={drawing}>
        <EffectChart effect={effect} onSelect={select} />
      </Suspense>
      <Figures effect={effect} onSelect={select} />
    </Box>
  );
  return (
    <>
      {findings.doses.map(dose => {
        const { key } = plan.factors[dose.factor];
        return (
          <Box key={dose.factor} mb="6">
            <Heading as="h2" size="md">
              {dose.name}: the curve of what lands
            </Heading>
            <Text mb="1">
              <Told>{dose.sentence}</Told>
            </Text>
            <Suspense fallback={drawing}>
              <DoseChart
                dose={dose}
                said={x => said(levelName(namesOf(plan), key, Number(x.toPrecision(2))))}
              />
            </Suspense>
            <Text fontSize="0.95rem" color="fg.muted">
              Thick: what is to be expected. Dashed: nine in ten of what the patches allow. Shaded: where it
              may begin to be as good as it gets, that is within two points of the best. What failed counts as
              nothing landed.
            </Text>
          </Box>
        );
      })}
      {effects.filter(e => e.measure === FIRST).map(shown)}
      <Pairs joints={findings.pairs} />
      {others.length > 0 && (
        <Box as="details" mb="5">
          <Text as="summary" cursor="pointer" minH="40px" fontWeight="700">
            By every other measure: {others.map(id => within(kindOf(id).name)).join(', ')}
          </Text>
          {effects.filter(e => e.measure !== FIRST).map(shown)}
        </Box>
      )}
      <Button
        variant="outline"
        minH="48px"
        mb="6"
        onClick={() =>
          saveFile(new Blob([findingsCsv(findings)], { type: 'text/csv' }), `${plan.code}-findings.csv`)
        }
      >
        Save the figures (CSV)
      </Button>
    </>
  );
}

function Figures({ effect, onSelect }: { effect: Effect; onSelect: (code: string) => void }) {
  const d = kindOf(effect.measure).response.figures;
  return (
    <details>
      <summary style={{ minHeight: '32px', cursor: 'pointer' }}>The figures</summary>
      <Table.Root size="sm">
        <Table.Header>
          <Table.Row bg="transparent">
            <Table.ColumnHeader>Level</Table.ColumnHeader>
            <Table.ColumnHeader>Mean</Table.ColumnHeader>
            <Table.ColumnHeader>90 % interval</Table.ColumnHeader>
            <Table.ColumnHeader>Patches</Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {effect.levels.map(l => (
            <Table.Row key={l.level} bg="transparent">
              <Table.Cell>
                <Said>{l.name}</Said>
              </Table.Cell>
              <Table.Cell>{l.mean.toFixed(d)}</Table.Cell>
              <Table.Cell>
                {l.lo.toFixed(d)} to {l.hi.toFixed(d)}
              </Table.Cell>
              <Table.Cell>
                <Flex gap="1" wrap="wrap">
                  {l.n}
                  {effect.dots
                    .filter(dot => dot.level === l.level)
                    .map(dot => (
                      <Button
                        key={dot.code}
                        size="xs"
                        minH="32px"
                        variant="outline"
                        onClick={() => onSelect(dot.code)}
                      >
                        {dot.code} {dot.value.toFixed(d)}
                      </Button>
                    ))}
                </Flex>
              </Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      <Text fontSize="0.95rem" color="fg.muted">
        Means and intervals by restricted maximum likelihood, boards and strips as random. How sure a choice
        is comes from draws that start from “there may well be no difference”.
      </Text>
    </details>
  );
}
