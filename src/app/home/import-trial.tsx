import { Button } from '@chakra-ui/react';
import { useRef } from 'react';
import { useWorkshopActions } from '../../store/index.ts';
import { asNotice, failure, useNotice } from '../ui/notices.tsx';
import { useWorkshop } from '../ui/workshop.ts';

/** Takes in a trial that was exported as a ZIP. */
export function ImportTrial() {
  const input = useRef<HTMLInputElement>(null);
  const { importTrial } = useWorkshopActions(useWorkshop());
  const tell = useNotice();
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const result = await importTrial(new Uint8Array(await file.arrayBuffer()));
      tell(result.ok ? { say: `“${result.value.name}” was imported.` } : asNotice(result.problem));
    } catch (error) {
      tell(failure(error));
    }
    if (input.current) input.current.value = '';
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        hidden
        data-testid="import-file"
        onChange={e => take(e.target.files?.[0])}
      />
      <Button variant="outline" minH="44px" onClick={() => input.current?.click()}>
        Import a trial (ZIP)
      </Button>
    </>
  );
}
