import { Box, Text } from '@chakra-ui/react';
import type { Action } from '../../core/schedule/index.ts';
import { clock } from '../../core/units/index.ts';
import { moment } from '../shell/time.ts';

/** Counts down to the best moment, then on past it; the window as a bar, and in words when it opens and closes. */
export function Clock({ action, now }: { action: Exclude<Action, { kind: 'finished' }>; now: number }) {
  const w = action.status.window;
  if (!w) return action.kind === 'wait' ? <Until at={action.until} now={now} /> : null;
  const left = w.aim - now;
  const state =
    now > w.closes
      ? 'Overdue: do it at once'
      : now < w.opens
        ? `Not before ${moment(w.opens, now)}`
        : `Now, until ${moment(w.closes, now)}`;
  const short = w.closes - w.opens < 1_800_000;
  return (
    <Box mt="3" role="timer" aria-label={`${clock(left)} to the aim. ${state}`}>
      <Text
        fontWeight="700"
        fontSize={{ base: '4rem', md: '6rem' }}
        lineHeight="1"
        color={now > w.closes ? 'buoy.fg' : 'fg'}
      >
        {left >= 0 ? clock(left) : `+${clock(-left)}`}
      </Text>
      <WindowBar {...w} now={now} />
      <Text fontSize="1.2rem" fontWeight="600">
        {state}
      </Text>
      <Text color="fg.muted">
        {left >= 0 ? 'left to the best moment' : 'past the best moment'}
        {short ? `; the window closes in ${clock(Math.max(0, w.closes - now))}` : ''}
      </Text>
    </Box>
  );
}

function Until({ at, now }: { at: number; now: number }) {
  return (
    <Box mt="3" role="timer" aria-label={`${clock(at - now)} to go`}>
      <Text fontWeight="700" fontSize={{ base: '4rem', md: '6rem' }} lineHeight="1">
        {clock(Math.max(0, at - now))}
      </Text>
      <Text color="fg.muted">to go</Text>
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
