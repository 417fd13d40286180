import {
  Box,
  Button,
  Field,
  Flex,
  Grid,
  Heading,
  HStack,
  Input,
  NativeSelect,
  Text,
  Textarea,
} from '@chakra-ui/react';
import { useState } from 'react';
import {
  checkMethod,
  DEEDS,
  DOES,
  type Does,
  type Method,
  newStep,
  type Step,
  type Wait,
} from '../../core/methods/index.ts';
import { span } from '../../core/units/index.ts';
import { Cautions } from '../ui/cautions.tsx';
import { Choose } from '../ui/choose.tsx';
import { NumberField } from '../ui/number-field.tsx';

const WAITS: readonly [Wait['kind'], string][] = [
  ['none', 'no wait'],
  ['fixed', 'a fixed window'],
  ['planned', 'the time that is planned in a trial'],
  ['open-time', 'while the coat stays open'],
  ['preparation', 'until the preparation is dry'],
  ['finish', 'until the finish is dry'],
];

const freshWait = (kind: Wait['kind']): Wait =>
  kind === 'fixed'
    ? { kind, min: 5, aim: 10, max: 60 }
    : kind === 'planned'
      ? { kind, lo: 0.8, hi: 1.5 }
      : { kind };

/** A maker's own copy of a method, step by step. Cautions stay with their steps. */
export function MethodEditor({
  method,
  onSave,
  onCancel,
}: {
  method: Method;
  onSave: (method: Method) => void;
  onCancel: () => void;
}) {
  const [draft, setDraft] = useState(method);
  const [problem, setProblem] = useState<string>();
  const set = (part: Partial<Method>) => setDraft(old => ({ ...old, ...part }));
  const setStep = (i: number, part: Partial<Step>) =>
    set({ steps: draft.steps.map((s, j) => (j === i ? { ...s, ...part } : s)) });
  const move = (i: number, by: number) => {
    const steps = [...draft.steps];
    [steps[i], steps[i + by]] = [steps[i + by], steps[i]];
    set({ steps });
  };
  const add = (after: number) => {
    let n = 1;
    while (draft.steps.some(s => s.id === `own-${n}`)) n++;
    const fresh = newStep({
      id: `own-${n}`,
      does: 'other',
      action: 'New step',
      done: 'Done',
      instruction: 'Say what to do.',
      handsOnMin: 1,
      wait: { kind: 'none' },
      cautions: [],
    });
    set({ steps: [...draft.steps.slice(0, after + 1), fresh, ...draft.steps.slice(after + 1)] });
  };
  const save = () => {
    const checked = checkMethod(draft);
    if (!checked.ok) return setProblem(`${checked.problem.say} ${checked.problem.wayOut ?? ''}`);
    onSave(checked.value);
  };
  return (
    <Box>
      <Heading as="h2" size="xl" mb="3">
        How you do it
      </Heading>
      <Grid templateColumns={{ base: '1fr', md: '1fr 1fr' }} gap="3">
        <Field.Root>
          <Field.Label>Name of the method</Field.Label>
          <Input value={draft.name} onChange={e => set({ name: e.target.value })} />
        </Field.Root>
        <Field.Root>
          <Field.Label>In one sentence</Field.Label>
          <Input value={draft.summary} onChange={e => set({ summary: e.target.value })} />
        </Field.Root>
      </Grid>
      {draft.steps.map((step, i) => (
        <Box key={step.id} as="fieldset" borderTopWidth="1px" mt="4" pt="3">
          <Flex gap="2" align="center" wrap="wrap">
            <Text as="legend" fontWeight="700" flex="1" minW="8rem">
              {i + 1}. {step.action}
            </Text>
            <Button
              size="sm"
              minH="40px"
              variant="outline"
              disabled={i < 2}
              onClick={() => move(i, -1)}
              aria-label={`Move “${step.action}” up`}
            >
              Up
            </Button>
            <Button
              size="sm"
              minH="40px"
              variant="outline"
              disabled={i === 0 || i === draft.steps.length - 1}
              onClick={() => move(i, 1)}
              aria-label={`Move “${step.action}” down`}
            >
              Down
            </Button>
            <Button
              size="sm"
              minH="40px"
              variant="outline"
              onClick={() => add(i)}
              aria-label={`Add a step after “${step.action}”`}
            >
              Add one after it
            </Button>
            <Button
              size="sm"
              minH="40px"
              variant="ghost"
              disabled={i === 0}
              onClick={() => set({ steps: draft.steps.filter((_, j) => j !== i) })}
              aria-label={`Take out “${step.action}”`}
            >
              Take out
            </Button>
          </Flex>
          <Grid templateColumns={{ base: '1fr', md: '1fr 2fr' }} gap="3" mt="2">
            <Field.Root>
              <Field.Label>What the button says</Field.Label>
              <Input value={step.action} onChange={e => setStep(i, { action: e.target.value })} />
            </Field.Root>
            <Field.Root>
              <Field.Label>What to do</Field.Label>
              <Textarea
                rows={2}
                value={step.instruction}
                onChange={e => setStep(i, { instruction: e.target.value, variants: [] })}
              />
            </Field.Root>
          </Grid>
          <HStack gap="3" mt="2" wrap="wrap" align="end">
            <Field.Root w="8rem">
              <Field.Label>Hands on, min</Field.Label>
              <Minutes value={step.handsOnMin} onChange={handsOnMin => setStep(i, { handsOnMin })} />
            </Field.Root>
            <Choose
              label="What it does"
              width="14rem"
              value={step.does}
              options={DOES.map(does => [does, DEEDS[does].name])}
              onChange={does => setStep(i, { does: does as Does })}
            />
            <Field.Root w="16rem">
              <Field.Label>Then</Field.Label>
              <NativeSelect.Root>
                <NativeSelect.Field
                  value={step.wait.kind}
                  onChange={e => setStep(i, { wait: freshWait(e.target.value as Wait['kind']) })}
                >
                  {WAITS.map(([kind, words]) => (
                    <option key={kind} value={kind}>
                      {words}
                    </option>
                  ))}
                </NativeSelect.Field>
                <NativeSelect.Indicator />
              </NativeSelect.Root>
            </Field.Root>
            {step.wait.kind === 'fixed' &&
              (['min', 'aim', 'max'] as const).map(key => {
                const wait = step.wait as Extract<Wait, { kind: 'fixed' }>;
                return (
                  <Field.Root key={key} w="8.5rem">
                    <Field.Label>
                      {{ min: 'Not before, min', aim: 'Best, min', max: 'Not after, min' }[key]}
                    </Field.Label>
                    <Minutes
                      value={wait[key]}
                      onChange={value => setStep(i, { wait: { ...wait, [key]: value } })}
                    />
                    <Field.HelperText>{Number.isFinite(wait[key]) ? span(wait[key]) : ''}</Field.HelperText>
                  </Field.Root>
                );
              })}
          </HStack>
          {step.cautions.length > 0 && (
            <Box mt="2">
              <Cautions ids={step.cautions} />
            </Box>
          )}
        </Box>
      ))}
      {problem && (
        <Text mt="4" color="buoy.fg" fontWeight="700" role="alert">
          {problem}
        </Text>
      )}
      <HStack mt="5" gap="2">
        <Button colorPalette="buoy" minH="48px" px="6" onClick={save}>
          Keep this method
        </Button>
        <Button variant="outline" minH="44px" onClick={onCancel}>
          Leave it as it was
        </Button>
      </HStack>
    </Box>
  );
}

function Minutes({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  return <NumberField value={value} min={0} step={1} onChange={onChange} />;
}
