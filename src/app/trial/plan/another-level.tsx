import { useState } from 'react';
import {
  FACTORS,
  factorIn,
  type LevelValue,
  levelName,
  methodsOf,
  ofAnyMethod,
} from '../../../core/trial/index.ts';
import { useShelf } from '../../../store/index.ts';
import { fieldOf, optionsFor } from '../../new-trial/choice.tsx';
import { Choose } from '../../ui/choose.tsx';
import { Box, Button, Flex, Text } from '../../ui/kit.tsx';
import { NumberChoice } from '../../ui/number-choice.tsx';
import { useSettings, useWrite } from '../../ui/settings.tsx';
import { useTrial } from '../view.tsx';

/** One level more of something that is varied. */
export function AnotherLevel({ onAdd }: { onAdd: (factor: number, level: LevelValue) => void }) {
  const { plan, workshop } = useTrial();
  const shelf = useShelf(workshop).data?.shelf;
  const { system } = useSettings().settings;
  const said = useWrite();
  const open = plan.factors.flatMap((f, i) => (ofAnyMethod(f.key) ? [] : [[f, i] as const]));
  const [at, setAt] = useState(open[0]?.[1] ?? -1);
  const [level, setLevel] = useState<LevelValue>('');
  const factor = plan.factors[at];
  if (!factor || !shelf) return null;
  const methods = methodsOf(plan);
  const isNumber = FACTORS[factor.key].levels === 'numbers';
  const options = optionsFor(factor.key, shelf, methods).filter(o => !factor.levels.includes(o.id));
  const unit = fieldOf(factor.key, methods[0], system);
  const value = isNumber
    ? Number(level) || Math.max(...factor.levels.map(Number)) * 2
    : options.some(o => o.id === level)
      ? level
      : (options[0]?.id ?? '');
  return (
    <Flex gap="3" mt="4" align="end" wrap="wrap">
      <Choose
        label="Another level of"
        width="14rem"
        value={String(at)}
        options={open.map(([f, i]) => [String(i), factorIn(plan, f.key)] as const)}
        onChange={i => {
          setAt(Number(i));
          setLevel('');
        }}
      />
      {isNumber ? (
        <Box w="9rem">
          <NumberChoice
            label={unit.unit || 'Level'}
            value={Number(value)}
            factor={unit.factor}
            step={unit.step}
            limit={unit.limit}
            onChange={setLevel}
          />
        </Box>
      ) : options.length > 0 ? (
        <Choose
          label="Which"
          width="16rem"
          value={String(value)}
          options={options.map(o => [o.id, said(o.name)] as const)}
          onChange={setLevel}
        />
      ) : (
        <Text>Nothing else is on the shelf for it.</Text>
      )}
      <Button variant="outline" minH="48px" disabled={value === ''} onClick={() => onAdd(at, value)}>
        Add it{isNumber ? ` (${said(levelName({}, factor.key, value))})` : ''}
      </Button>
    </Flex>
  );
}
