import { Field, Input, NativeSelect, Textarea } from '@chakra-ui/react';
import { DEEDS, DOES, type Does, type Step, type Wait } from '../../core/methods/index.ts';
import { span, write } from '../../core/say/index.ts';
import { Cautions } from '../ui/cautions.tsx';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Grid, HStack, Text } from '../ui/kit.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { Tick } from '../ui/tick.tsx';

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
    ? { kind, min: 5, aim: 10, max: 60, dries: false }
    : kind === 'planned'
      ? { kind, lo: 0.8, hi: 1.5 }
      : { kind };

/** One step of a method: what it does, how long, what is waited for, and where it stands. */
export function StepFields({
  step,
  index,
  count,
  onChange,
  onMove,
  onAdd,
  onTakeOut,
}: {
  step: Step;
  index: number;
  count: number;
  onChange: (part: Partial<Step>) => void;
  onMove: (by: -1 | 1) => void;
  onAdd: () => void;
  onTakeOut: () => void;
}) {
  return (
    <Box as="fieldset" borderTopWidth="1px" mt="4" pt="3">
      <Flex gap="2" align="center" wrap="wrap">
        <Text as="legend" fontWeight="700" flex="1" minW="8rem">
          {index + 1}. {step.action}
        </Text>
        <Button
          size="sm"
          minH="40px"
          variant="outline"
          disabled={index < 2}
          onClick={() => onMove(-1)}
          aria-label={`Move “${step.action}” up`}
        >
          Up
        </Button>
        <Button
          size="sm"
          minH="40px"
          variant="outline"
          disabled={index === 0 || index === count - 1}
          onClick={() => onMove(1)}
          aria-label={`Move “${step.action}” down`}
        >
          Down
        </Button>
        <Button
          size="sm"
          minH="40px"
          variant="outline"
          onClick={onAdd}
          aria-label={`Add a step after “${step.action}”`}
        >
          Add one after it
        </Button>
        <Button
          size="sm"
          minH="40px"
          variant="ghost"
          disabled={index === 0}
          onClick={onTakeOut}
          aria-label={`Take out “${step.action}”`}
        >
          Take out
        </Button>
      </Flex>
      <Grid templateColumns={{ base: '1fr', md: '1fr 2fr' }} gap="3" mt="2">
        <Field.Root>
          <Field.Label>What the button says</Field.Label>
          <Input value={step.action} onChange={e => onChange({ action: e.target.value })} />
        </Field.Root>
        <Field.Root>
          <Field.Label>What to do</Field.Label>
          <Textarea
            rows={2}
            value={write(step.instruction)}
            onChange={e => onChange({ instruction: e.target.value, variants: [] })}
          />
        </Field.Root>
      </Grid>
      <HStack gap="3" mt="2" wrap="wrap" align="start">
        <Field.Root w="8rem">
          <Field.Label>Hands on, min</Field.Label>
          <Minutes value={step.handsOnMin} onChange={handsOnMin => onChange({ handsOnMin })} />
        </Field.Root>
        <Choose
          label="What it does"
          width="14rem"
          value={step.does}
          options={DOES.map(does => [does, DEEDS[does].name])}
          onChange={does => onChange({ does: does as Does })}
        />
        <Field.Root w="16rem">
          <Field.Label>Then</Field.Label>
          <NativeSelect.Root>
            <NativeSelect.Field
              value={step.wait.kind}
              onChange={e => onChange({ wait: freshWait(e.target.value as Wait['kind']) })}
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
                  onChange={value => onChange({ wait: { ...wait, [key]: value } })}
                />
                <Field.HelperText>{Number.isFinite(wait[key]) ? span(wait[key]) : ''}</Field.HelperText>
              </Field.Root>
            );
          })}
      </HStack>
      <WhileWaiting {...{ step, onChange }} />
      {step.cautions.length > 0 && (
        <Box mt="2">
          <Cautions ids={step.cautions} />
        </Box>
      )}
    </Box>
  );
}

/** What goes on at a step and in its wait: whether it turns the picture over, whether hands stay with it, whether it follows the air. */
function WhileWaiting({ step, onChange }: { step: Step; onChange: (part: Partial<Step>) => void }) {
  const { wait, holds } = step;
  return (
    <HStack gap="5" mt="2" wrap="wrap">
      <Tick checked={step.reverses} onChange={on => onChange({ reverses: on })}>
        Face down, and leaves the picture behind: turns it over
      </Tick>
      {wait.kind !== 'none' && (
        <Tick checked={holds} onChange={on => onChange({ holds: on })}>
          Hands stay with it until the best moment
        </Tick>
      )}
      {wait.kind === 'fixed' && (
        <Tick checked={wait.dries} onChange={dries => onChange({ wait: { ...wait, dries } })}>
          Something dries: longer in cold, damp air
        </Tick>
      )}
    </HStack>
  );
}

function Minutes({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  return <NumberField value={value} limit="minutes" step={1} onChange={onChange} />;
}
