import { Button, type ButtonProps } from '@chakra-ui/react';
import { useRef } from 'react';

/** A button that asks for one file; the same file can be chosen again. */
export function FileButton({
  accept,
  testId,
  onFile,
  ...button
}: {
  accept: string;
  testId: string;
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
