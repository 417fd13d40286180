import type { ReactNode } from 'react';
import { explain } from '../../core/diagnosis/index.ts';
import { findingsOf } from '../../core/findings/index.ts';
import { benchOf, type PatchStatus, patchStatus } from '../../core/schedule/index.ts';
import {
  FACTOR_LETTERS,
  levelMarks,
  levelName,
  levelNames,
  namesOf,
  type Patch,
  readingOf,
  verdictOf,
} from '../../core/trial/index.ts';
import { span } from '../../core/units/index.ts';
import { Hatch, PatchWriting } from '../board/marks.tsx';
import { TargetPicture } from '../board/target-picture.tsx';
import { StraightPhoto } from '../read/straight-photo.tsx';
import type { StageName, TrialView } from './frame.tsx';

/** What the board shows at a stage. */
interface Marks {
  readonly what: string;
  readonly legend: string;
  readonly draw: (patch: Patch) => ReactNode;
  readonly say: (patch: Patch) => string;
}

export const PHASE_WORDS: Record<PatchStatus['phase'], string> = {
  'to do': 'to do',
  ready: 'ready',
  waiting: 'waiting',
  overdue: 'overdue',
  finished: 'finished',
  spoilt: 'spoilt',
};
const PHASE_HATCH = {
  'to do': 'none',
  waiting: 'dots',
  ready: 'lines',
  overdue: 'cross',
  finished: 'full',
  spoilt: 'cross',
} as const;
const VERDICT_HATCH = { keep: 'full', fix: 'lines', scrap: 'cross' } as const;

/** The drawing and the words for every patch at a stage. */
export function stageMarks(stage: StageName, view: TrialView): Marks {
  const { plan, records, workshop } = view;
  const size = plan.patchMm;
  const names = (p: Patch) => levelNames(plan, p).join(', ');
  const legend = plan.factors
    .map(
      (factor, i) =>
        `${FACTOR_LETTERS[i]}: ${factor.levels
          .map((level, l) => `${FACTOR_LETTERS[i]}${l + 1} ${levelName(namesOf(plan), factor.key, level)}`)
          .join(', ')}`,
    )
    .join(' · ');
  switch (stage) {
    case 'plan':
      return {
        what: 'with the levels of every patch',
        legend,
        draw: p => (
          <PatchWriting
            size={size}
            head={p.code}
            strong={levelMarks(p).join(' ')}
            lines={[`no. ${p.order + 1} · repeat ${p.repeat + 1}`]}
          />
        ),
        say: p => `${p.code}: ${names(p)}, number ${p.order + 1} in the order of work`,
      };
    case 'print':
      return {
        what: 'with the prints',
        legend: `Each print as it lies on the donor sheet: ${plan.used.method.mirror ? 'mirrored' : 'not mirrored'}.`,
        draw: () => <TargetPicture size={size} mirror={plan.used.method.mirror} />,
        say: p => `${p.code}: ${plan.used.method.mirror ? 'mirrored ' : ''}print for ${names(p)}`,
      };
    case 'make': {
      const bench = benchOf(plan, records);
      const now = Date.now();
      const status = new Map(bench.lines.map(l => [l.patch.code, patchStatus(l, bench.air, now)]));
      return {
        what: 'with where every patch stands',
        legend: 'Dots: waiting. Slanted lines: ready. Crossed: overdue or spoilt. Filled: finished.',
        draw: p => {
          const s = status.get(p.code)!;
          const left = s.window && now < s.window.aim ? `${span((s.window.aim - now) / 60_000)} to go` : '';
          return (
            <g>
              <PatchWriting
                size={size}
                head={p.code}
                lines={[
                  s.last ? s.last.step.done.toLowerCase() : 'not begun',
                  s.next ? `→ ${s.next.step.action.toLowerCase()}` : PHASE_WORDS[s.phase],
                  left || PHASE_WORDS[s.phase],
                ]}
              />
              <Hatch size={size} kind={PHASE_HATCH[s.phase]} />
            </g>
          );
        },
        say: p => {
          const s = status.get(p.code)!;
          return `${p.code}: ${PHASE_WORDS[s.phase]}${s.next ? `, next: ${s.next.step.action}` : ''}`;
        },
      };
    }
    case 'read':
      return {
        what: 'with the photos read so far',
        legend: 'The straightened photo and the share that landed.',
        draw: p => {
          const found = readingOf(records, p.code);
          if (!found) return <PatchWriting size={size} head={p.code} lines={['no photo yet']} />;
          return (
            <StraightPhoto
              workshop={workshop}
              id={found.reading.straight}
              size={size}
              words={`${found.reading.reading.landed?.toFixed(0)} %`}
            />
          );
        },
        say: p => {
          const r = readingOf(records, p.code)?.reading.reading;
          return r
            ? `${p.code}: landed ${r.landed} %, veil ${r.veil ?? 'not given'}`
            : `${p.code}: not read yet`;
        },
      };
    case 'judge':
      return {
        what: 'with your verdicts',
        legend: 'Filled: keep. Slanted lines: fix. Crossed: scrap.',
        draw: p => {
          const v = verdictOf(records, p.code);
          return (
            <g>
              <PatchWriting
                size={size}
                head={p.code}
                strong={v ? v.verdict : undefined}
                lines={v ? [`grade ${v.grade} of 5`] : ['not judged yet']}
              />
              {v && <Hatch size={size} kind={VERDICT_HATCH[v.verdict]} />}
            </g>
          );
        },
        say: p => {
          const v = verdictOf(records, p.code);
          return v ? `${p.code}: ${v.verdict}, grade ${v.grade} of 5` : `${p.code}: not judged yet`;
        },
      };
    case 'explain': {
      const top = new Map(plan.patches.map(p => [p.code, explain(plan, p, records)[0]]));
      return {
        what: 'with the likeliest cause',
        legend: 'The likeliest cause of what is wrong with each patch.',
        draw: p => {
          const cause = top.get(p.code);
          const read = readingOf(records, p.code) || verdictOf(records, p.code);
          const words = cause ? wrap(cause.cause.name) : [read ? 'nothing wrong' : 'not read yet'];
          return <PatchWriting size={size} head={p.code} lines={words} />;
        },
        say: p => `${p.code}: ${top.get(p.code)?.cause.name ?? 'nothing to explain'}`,
      };
    }
    case 'keep': {
      const leading = findingsOf(plan, records).leading;
      return {
        what: 'with the numbers',
        legend: 'Landed in percent, veil below. Filled foot: the leading combination.',
        draw: p => {
          const r = readingOf(records, p.code)?.reading.reading;
          return (
            <g>
              <PatchWriting
                size={size}
                head={p.code}
                strong={r?.landed != null ? `${r.landed.toFixed(0)} %` : undefined}
                lines={[r?.veil != null ? `veil ${r.veil.toFixed(2)}` : 'no dry reading']}
              />
              {leading?.patches.includes(p.code) && <Hatch size={size} kind="full" />}
            </g>
          );
        },
        say: p => {
          const r = readingOf(records, p.code)?.reading.reading;
          return `${p.code}: ${names(p)}, ${r ? `landed ${r.landed} %, veil ${r.veil ?? 'not given'}` : 'no reading'}`;
        },
      };
    }
  }
}

/** Splits words into lines of at most 19 letters, at most four. */
function wrap(text: string): string[] {
  const lines: string[] = [''];
  for (const word of text.split(' ')) {
    if (`${lines.at(-1)} ${word}`.trim().length > 17) lines.push(word);
    else lines[lines.length - 1] = `${lines.at(-1)} ${word}`.trim();
  }
  return lines.slice(0, 4);
}
