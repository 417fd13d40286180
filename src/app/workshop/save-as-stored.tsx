import { type WorkshopName, workshopOf } from '../../store/index.ts';
import { Button } from '../ui/kit.tsx';
import { didNotWork, useAttempt } from '../ui/notices.tsx';
import { saveFile } from '../ui/save-file.ts';

/** Saves what is stored of a trial as it is, readable or not. */
export function SaveAsStored({ workshop, trial }: { workshop: WorkshopName; trial: string }) {
  const attempt = useAttempt(didNotWork);
  const save = async () => {
    const text = await workshopOf(workshop).asStored(trial);
    saveFile(new Blob([text], { type: 'application/json' }), `wet-test-${trial}-as-stored.json`);
  };
  return (
    <Button variant="outline" minH="44px" onClick={() => void attempt(save)}>
      Save it to a file as it is
    </Button>
  );
}
