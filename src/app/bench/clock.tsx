import { isLate } from '../../core/progress/index.ts';
import type { Action } from '../../core/schedule/index.ts';
import { clock } from '../../core/units/index.ts';
import { Box, Text } from '../ui/kit.tsx';
import { moment } from '../ui/time.ts';

type Doing = Exclude<Action, { kind: 'finished' }>;

/** What the clock says at a moment: its figures, and what they mean. */
function reading(action: Doing, now: number) {
  const w = action.status.window;
  if (!w)
    return action.kind === 'wait'
      ? { figures: clock(Math.max(0, action.until - now)), state: '', means: 'to go', overdue: false }
      : undefined;
  const left = w.aim - now;
  const overdue = isLate(action.status, now);
  const state = overdue
    ? 'Overdue: do it at once'
    : now < w.opens
      ? `Not before ${moment(w.opens, now)}`
      : action.status.patient
        ? 'Now, or later: it is as good'
        : `Now, until ${moment(w.closes, now)}`;
  // Where later is as good nobody is hurried by a clock that runs on.
  if (left < 0 && action.status.patient)
    return { figures: 'Ready', state, means: 'nothing is lost by waiting', overdue };
  const short = w.closes - w.opens < 1_800_000;
  const planned = action.kind === 'do' ? action.planned : action.until;
  // The plan of the work goes before the piece's own best moment: hands may be wanted elsewhere then.
  if (planned !== undefined && left > 0 && !short) {
    const toPlan = planned - now;
    return toPlan > 0
      ? { figures: clock(toPlan), state, means: 'left until the plan of the work has it', overdue }
      : {
          figures: 'Now',
          state,
          means: `in the plan of the work; its own best moment is ${moment(w.aim, now)}`,
          overdue,
        };
  }
  return {
    figures: left >= 0 ? clock(left) : `+${clock(-left)}`,
    state,
    means: `${left >= 0 ? 'left to the best moment' : 'past the best moment'}${short ? `; the window closes in ${clock(Math.max(0, w.closes - now))}` : ''}`,
    overdue,
  };
}

/** The clock's figures: down to the best moment, then on past it. */
export function Figures({ action, now, size }: { action: Doing; now: number; size: string }) {
  const found = reading(action, now);
  if (!found) return null;
  return (
    <Text fontWeight="700" fontSize={size} lineHeight="1" color={found.overdue ? 'buoy.fg' : 'fg'}>
      {found.figures}
    </Text>
  );
}

/** What the figures mean: the window as a bar, and in words when it opens and closes. */
export function ClockWords({ action, now }: { action: Doing; now: number }) {
  const found = reading(action, now);
  if (!found) return null;
  return (
    <Box mt="1" role="timer" aria-label={`${found.figures} ${found.means}. ${found.state}`}>
      {action.status.window && <WindowBar {...action.status.window} now={now} />}
      <Text fontSize="1.2rem" fontWeight="600">
        {found.state}
      </Text>
      <Text color="fg.muted">{found.means}</Text>
    </Box>
  );
}

/** From the wait's start to some way past its end: hatched while closed, a mark at the best moment, a needle for now. */
function WindowBar({ opens, aim, closes, now }: { opens: number; aim: number; closes: number; now: number }) {
  const from = Math.min(now, opens) - 0.05 * (closes - opens);
  const to = Math.max(closes, Math.min(now, closes + (closes - opens))) + 0.05 * (closes - opens);
  const at = (ms: number) => (100 * Math.min(1, Math.max(0, (ms - from) / (to - from || 1)))).toFixed(2);
  const wide = (a: number, b: number) => Math.max(0, Number(at(b)) - Number(at(a)));
  return (
    <svg
      viewBox="0 0 100 9"
      width="100%"
      height="34"
      preserveAspectRatio="none"
      aria-hidden="true"
      style={{ margin: '6px 0', maxWidth: '34rem' }}
    >
      <path d="M0 4.5h100" stroke="var(--chakra-colors-border-emphasized)" strokeWidth="0.6" />
      <rect
        x={at(opens)}
        y="2"
        width={wide(opens, closes)}
        height="5"
        fill="var(--chakra-colors-tide-subtle)"
        stroke="var(--chakra-colors-fg)"
        strokeWidth="0.4"
        vectorEffect="non-scaling-stroke"
      />
      {(
        [
          [`M${at(aim)} 1v7`, 'var(--chakra-colors-fg)', 2, '3 2'],
          [`M${at(now)} 0v9`, 'var(--chakra-colors-buoy-solid)', 5, undefined],
        ] as const
      ).map(([d, stroke, strokeWidth, strokeDasharray]) => (
        <path key={d} {...{ d, stroke, strokeWidth, strokeDasharray }} vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}
