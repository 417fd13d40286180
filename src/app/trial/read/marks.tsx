import { photosOf, readingOf, shortSide } from '../../../core/trial/index.ts';
import type { BoardMarks } from '../../board/marks.tsx';
import { PatchWriting } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';
import { StraightPhoto } from './straight-photo.tsx';

/** What stands on the patches at this stage. */
export function marks(view: TrialView): BoardMarks {
  const { plan, records, workshop } = view;
  const size = shortSide(plan);
  return {
    what: 'with the photos read so far',
    legend: 'The straightened photo and the share that landed.',
    draw: p => {
      const found = readingOf(records, p.code);
      const byEye = photosOf(records, p.code).at(-1);
      if (!found && byEye)
        return <StraightPhoto {...{ workshop, size }} trial={plan.id} id={byEye.photo} words="by eye" />;
      if (!found) return <PatchWriting size={size} head={p.code} lines={['no photo yet']} />;
      return (
        <StraightPhoto
          workshop={workshop}
          trial={plan.id}
          id={found.reading.straight}
          size={size}
          words={`${found.reading.reading.landed?.toFixed(0)} %`}
        />
      );
    },
    say: p => {
      const r = readingOf(records, p.code)?.reading.reading;
      if (!r && photosOf(records, p.code).length) return `${p.code}: its photo is kept, not measured`;
      return r ? `${p.code}: landed ${r.landed} %, veil ${r.veil ?? 'not given'}` : `${p.code}: not read yet`;
    },
  };
}
