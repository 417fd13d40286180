import { Field, Input, NativeSelect, Textarea } from '@chakra-ui/react';
import type { PlanRequest } from '../../core/design/index.ts';
import { METHODS, type Method } from '../../core/methods/index.ts';
import { INTENTS } from '../../core/trial/index.ts';
import { Grid } from '../ui/kit.tsx';

/** What is asked: the trial's name and question, what counts as good, and the method. */
export function QuestionFields({
  request,
  method,
  own,
  nameless,
  changeMethod,
  onChange: change,
}: {
  request: PlanRequest;
  method: Method;
  own: readonly Method[];
  /** The name is missing and was asked for. */
  nameless: boolean;
  changeMethod: (id: string) => void;
  onChange: (part: Partial<PlanRequest>) => void;
}) {
  return (
    <>
      <Grid templateColumns={{ base: '1fr', md: '2fr 1fr' }} gap="4">
        <Field.Root invalid={nameless} required>
          <Field.Label>Name of the trial</Field.Label>
          <Input
            value={request.name}
            placeholder="Medium and cure time on birch"
            onChange={e => change({ name: e.target.value })}
          />
          <Field.ErrorText>Give the trial a name.</Field.ErrorText>
        </Field.Root>
        <Field.Root>
          <Field.Label>You want it</Field.Label>
          <NativeSelect.Root>
            <NativeSelect.Field
              value={request.intent}
              onChange={e => change({ intent: e.target.value as PlanRequest['intent'] })}
            >
              {INTENTS.map(i => (
                <option key={i}>{i}</option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
        </Field.Root>
      </Grid>
      <Grid templateColumns={{ base: '1fr', md: '2fr 1fr' }} gap="4" mt="4">
        <Field.Root>
          <Field.Label>Your question, in your own words</Field.Label>
          <Textarea
            rows={2}
            value={request.question}
            placeholder="Which medium holds on bare birch, and is an evening long enough to dry?"
            onChange={e => change({ question: e.target.value })}
          />
        </Field.Root>
        <Field.Root>
          <Field.Label>Method</Field.Label>
          <NativeSelect.Root>
            <NativeSelect.Field value={request.method} onChange={e => changeMethod(e.target.value)}>
              {[...METHODS, ...own].map(m => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
          <Field.HelperText>
            {request.factors.some(f => f.key === 'method')
              ? 'The first of those compared; a control is made this way.'
              : method.mirror
                ? 'Printed mirrored.'
                : 'Not mirrored.'}
          </Field.HelperText>
        </Field.Root>
      </Grid>
    </>
  );
}
