import { Checkbox } from '@chakra-ui/react';
import type { ComponentProps, ReactNode } from 'react';

/** A box to tick, with its words; large enough for a wet finger unless `minH` says otherwise. */
export function Tick({
  checked,
  onChange,
  children,
  ...rest
}: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: ReactNode;
} & Pick<ComponentProps<typeof Checkbox.Root>, 'mt' | 'minH' | 'flex' | 'disabled'>) {
  return (
    <Checkbox.Root
      minH="44px"
      checked={checked}
      onCheckedChange={e => onChange(e.checked === true)}
      {...rest}
    >
      <Checkbox.HiddenInput />
      <Checkbox.Control />
      <Checkbox.Label>{children}</Checkbox.Label>
    </Checkbox.Root>
  );
}
