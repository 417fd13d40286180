import type { Rule } from '../../core/rules/index.ts';
import { Box, Text } from './kit.tsx';
import { Said } from './settings.tsx';

const WORD = { stop: 'Stop.', warn: 'Careful.', advise: 'Advice.' } as const;

/** The reasons of rules in words, at the choice they are about. */
export function Reasons({ rules }: { rules: readonly Rule[] }) {
  return (
    <Box fontSize="0.92rem" lineHeight="1.3">
      {rules.map(r => (
        <Text
          key={r.id}
          mt="1"
          color={r.severity === 'stop' ? 'buoy.fg' : r.severity === 'warn' ? 'warn.fg' : 'fg.muted'}
        >
          <b>{WORD[r.severity]}</b> <Said>{`${r.why} ${r.instead ?? ''}`}</Said>
        </Text>
      ))}
    </Box>
  );
}
