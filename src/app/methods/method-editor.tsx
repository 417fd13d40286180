import { Field, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { checkMethod, type Method, newStep, type Step } from '../../core/methods/index.ts';
import { problemWords } from '../../core/outcome/index.ts';
import { write } from '../../core/say/index.ts';
import { Box, Button, Grid, Heading, HStack, Text } from '../ui/kit.tsx';
import { StepFields } from './step-fields.tsx';

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
    if (!checked.ok) return setProblem(write(problemWords(checked.problem)));
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
        <StepFields
          key={step.id}
          step={step}
          index={i}
          count={draft.steps.length}
          onChange={part => setStep(i, part)}
          onMove={by => move(i, by)}
          onAdd={() => add(i)}
          onTakeOut={() => set({ steps: draft.steps.filter((_, j) => j !== i) })}
        />
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
