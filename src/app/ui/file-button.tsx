import type { ButtonProps } from '@chakra-ui/react';
import { useRef } from 'react';
import { Button } from './kit.tsx';

/** A button that asks for one file; the same file can be chosen again. */
export function FileButton({
  accept,
  testId,
  label,
  onFile,
  ...button
}: {
  accept: string;
  testId?: string;
  /** What the file is, where the button's words do not say. */
  label?: string;
  onFile: (file: File) => void;
} & Omit<ButtonProps, 'onClick'>) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        data-testid={testId}
        aria-label={label}
        onChange={e => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
      <Button {...button} onClick={() => input.current?.click()} />
    </>
  );
}
