import { levelMarksOn } from '../../board/level-marks.tsx';
import type { BoardMarks } from '../../board/marks.tsx';
import type { TrialView } from '../view.tsx';

/** What stands on the patches while they are laid out: what each is made with. */
export const marks = ({ plan }: TrialView): BoardMarks => levelMarksOn(plan);
