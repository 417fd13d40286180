import { useId, useState } from 'react';
import { partsOf, type Words, write } from '../../core/say/index.ts';
import { Box } from './kit.tsx';
import { useSettings } from './settings.tsx';
import { headOf, meaningOf } from './told.model.ts';

/** Words of the core's whose numbers can be pressed: below them then stands what a number means and what it rests on. */
export function Told({ children }: { children: Words | undefined }) {
  const { settings } = useSettings();
  const [open, setOpen] = useState<number>();
  const id = useId();
  const parts = partsOf(children ?? '');
  const shown = open === undefined ? undefined : parts[open];
  return (
    <>
      {parts.map((part, i) =>
        typeof part === 'object' && 'kind' in part && meaningOf(part) ? (
          <button
            key={i}
            type="button"
            aria-expanded={open === i}
            aria-controls={id}
            onClick={() => setOpen(open === i ? undefined : i)}
            style={{ font: 'inherit', color: 'inherit', cursor: 'help', textDecoration: 'underline dotted' }}
          >
            {write(part, settings)}
          </button>
        ) : (
          write(part, settings)
        ),
      )}
      <Box as="span" id={id} display={shown ? 'block' : 'none'} fontSize="1rem" fontWeight="400" mt="1">
        {shown !== undefined && typeof shown === 'object' && 'kind' in shown && (
          <>
            <b>{headOf(shown, settings)}</b>: {write(meaningOf(shown), settings)}
          </>
        )}
      </Box>
    </>
  );
}
