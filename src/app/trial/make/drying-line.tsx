import { dryingLine, type Lessons, type Waiting } from '../../../core/drying/index.ts';
import { isLate, type Trialled } from '../../../core/progress/index.ts';
import { span, within } from '../../../core/say/index.ts';
import { type Sitting, sittingsFrom } from '../../../core/schedule/index.ts';
import type { WorkshopName } from '../../../store/index.ts';
import { Box, Button, Flex, Text } from '../../ui/kit.tsx';
import { useNotice } from '../../ui/notices.tsx';
import { moment } from '../../ui/time.ts';
import { useRecord } from '../../workshop/use-record.ts';

/** Everything that waits, over all trials, on one axis of time: bars from placing on, ready marks, sittings; and the question whether it is ready. */
export function DryingLine({
  trials,
  workshop,
  sittings,
  now,
  lessons,
}: {
  trials: readonly Trialled[];
  workshop: WorkshopName;
  sittings: readonly Sitting[];
  now: number;
  /** What the whole workshop teaches about drying. */
  lessons: readonly Lessons[];
}) {
  const bars = dryingLine(trials, now, lessons);
  if (!bars.length)
    return (
      <Text color="fg.muted">
        Nothing is drying. What is will be listed here, with the time it is ready in this air.
      </Text>
    );
  const from = Math.min(now, ...bars.map(b => b.since));
  const to = Math.max(
    now + 3_600_000,
    ...bars.flatMap(b => [Math.min(b.closes, b.aim + 1.3 * (b.aim - b.since)), b.dry?.hi ?? 0]),
  );
  return (
    <Box>
      <Axis {...{ from, to, now }} sittings={sittings} />
      {bars.map(b => (
        <Bar
          key={`${b.plan.id}${b.patches[0]}`}
          bar={b}
          {...{ from, to, now, workshop }}
          many={trials.length > 1}
        />
      ))}
      <Text color="fg.muted" fontSize="0.92rem" mt="1">
        Bar: waiting so far and to its best moment. Outlined: its window. Wavy: when it is likely dry in this
        air.
        {sittings.length > 0 && ' Ticked: when you are there.'}
      </Text>
    </Box>
  );
}

interface Frame {
  readonly from: number;
  readonly to: number;
  readonly now: number;
}
const share = ({ from, to }: Frame, ms: number) => (100 * (ms - from)) / (to - from || 1);
const INK = 'var(--chakra-colors-fg)';
const HOUR = 3_600_000;

/** Round hours or days, so that at most six words stand on the axis. */
function ticksOf({ from, to }: Frame): number[] {
  const every = [1, 2, 3, 6, 12, 24, 48, 96, 168].find(h => (to - from) / (h * HOUR) <= 6) ?? 336;
  const start = new Date(from);
  start.setMinutes(0, 0, 0);
  start.setHours(every >= 24 ? 24 : Math.ceil((start.getHours() + 1) / every) * every);
  const ticks: number[] = [];
  for (let at = start.getTime(); at < to && ticks.length < 8; at += every * HOUR) ticks.push(at);
  return ticks.filter(t => share({ from, to, now: 0 }, t) < 92);
}

/** Midnight is called by its day, other hours by the clock. */
const tickWords = (at: number) =>
  new Date(at).getHours() === 0
    ? new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric' }).format(at)
    : new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' }).format(at);

function Axis({ sittings, ...frame }: Frame & { sittings: readonly Sitting[] }) {
  const there = sittings.length ? sittingsFrom(sittings, frame.now) : [];
  const at = (ms: number) => Math.min(100, Math.max(0, share(frame, ms)));
  return (
    <Box position="relative" h="2.6rem" aria-hidden="true">
      {ticksOf(frame).map(t => (
        <Text
          key={t}
          position="absolute"
          left={`${share(frame, t)}%`}
          fontSize="0.82rem"
          color="fg.muted"
          whiteSpace="nowrap"
        >
          {tickWords(t)}
        </Text>
      ))}
      <svg
        viewBox="0 0 100 6"
        preserveAspectRatio="none"
        width="100%"
        height="14"
        style={{ position: 'absolute', bottom: 0 }}
      >
        <title>Time</title>
        <path d="M0 5h100" stroke={INK} strokeWidth="1" vectorEffect="non-scaling-stroke" />
        {there.map(([a, b]) =>
          b > frame.from && a < frame.to ? (
            <path
              key={a}
              d={`M${at(a).toFixed(2)} 3H${at(b).toFixed(2)}`}
              stroke={INK}
              strokeWidth="5"
              strokeDasharray="1.5 2.5"
              vectorEffect="non-scaling-stroke"
            />
          ) : null,
        )}
        <path
          d={`M${at(frame.now).toFixed(2)} 0V6`}
          stroke="var(--chakra-colors-buoy-solid)"
          strokeWidth="3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </Box>
  );
}

function Bar({
  bar,
  workshop,
  many,
  ...frame
}: Frame & { bar: Waiting; workshop: WorkshopName; many: boolean }) {
  const { now } = frame;
  const record = useRecord(workshop, bar.plan.id);
  const tell = useNotice();
  const state = isLate({ window: bar, patient: bar.patient }, now)
    ? 'overdue'
    : now >= bar.opens
      ? 'ready by the clock'
      : `ready in ${span((bar.aim - now) / 60_000)}`;
  const answer = async (ready: boolean) => {
    const kept = await record.add(
      bar.patches.map(patch => ({
        kind: 'ready',
        patch,
        ready,
        step: bar.next.step.id,
        round: bar.next.round,
      })),
    );
    if (kept)
      tell({
        say: ready ? 'Kept: it is ready, go on with it.' : 'Kept: it gets a quarter longer than it had.',
      });
  };
  const patches =
    bar.patches.length === 1 ? bar.patches[0] : `${bar.patches.length} patches from ${bar.patches[0]}`;
  const at = (ms: number) => Math.min(100, Math.max(0, share(frame, ms)));
  const wide = (a: number, b: number) => Math.max(0.3, at(b) - at(a));
  return (
    <Box borderTopWidth="1px" py="2" role="group" aria-label={`${patches}, ${state}`}>
      <Flex gap="3" wrap="wrap" align="baseline">
        <Text fontWeight="700" minW={{ base: '4rem', md: '9.5rem' }}>
          {moment(bar.aim, now)}
        </Text>
        <Text flex="1" minW="12rem">
          {bar.next.step.action}: {patches}
          <Text as="span" color="fg.muted">
            {many ? ` · ${bar.plan.name}` : ''} · {within(bar.last.step.done)}, {state}
            {bar.dry && `, likely dry ${moment(bar.dry.lo, now)} to ${moment(bar.dry.hi, now)}`}
            {bar.dry && (bar.dry.answers ? ` (from ${bar.dry.answers} of yours)` : ' (an estimate)')}
          </Text>
        </Text>
      </Flex>
      <svg viewBox="0 0 100 10" preserveAspectRatio="none" width="100%" height="20" aria-hidden="true">
        <rect
          x={at(bar.opens)}
          y="1"
          width={wide(bar.opens, Math.min(bar.closes, frame.to))}
          height="8"
          fill="none"
          stroke={INK}
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
        <rect
          x={at(bar.since)}
          y="3.4"
          width={wide(bar.since, Math.max(now, bar.since))}
          height="3.2"
          fill="var(--chakra-colors-tide-solid)"
        />
        <path
          d={`M${at(now).toFixed(2)} 5H${at(Math.max(now, bar.aim)).toFixed(2)}`}
          stroke="var(--chakra-colors-tide-solid)"
          strokeWidth="2"
          strokeDasharray="2 3"
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={`M${at(bar.aim).toFixed(2)} 0V10`}
          stroke={INK}
          strokeWidth="3"
          vectorEffect="non-scaling-stroke"
        />
        {bar.dry && (
          <path
            d={wave(at(bar.dry.lo), at(bar.dry.hi))}
            fill="none"
            stroke="var(--chakra-colors-buoy-fg)"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      {bar.question && now - bar.since > 15 * 60_000 && (
        <Flex gap="2" wrap="wrap" align="center" mt="1">
          <Text flex={{ base: '1 0 100%', md: '1' }}>
            {bar.question}
            {bar.asked && (
              <Text as="span" color="fg.muted">
                {' '}
                {bar.asked.ready ? 'Found ready' : 'Not ready'} at {moment(bar.asked.at, now)}.
              </Text>
            )}
          </Text>
          <Button
            size="sm"
            minH="44px"
            variant="outline"
            disabled={record.busy}
            onClick={() => void answer(true)}
          >
            It is ready
          </Button>
          <Button
            size="sm"
            minH="44px"
            variant="outline"
            disabled={record.busy}
            onClick={() => void answer(false)}
          >
            Not yet
          </Button>
        </Flex>
      )}
    </Box>
  );
}

function wave(from: number, to: number): string {
  const steps = Math.max(2, Math.round((to - from) / 1.2));
  const points = Array.from(
    { length: steps + 1 },
    (_, i) => `${(from + ((to - from) * i) / steps).toFixed(2)} ${i % 2 ? 7.5 : 9.2}`,
  );
  return `M${points.join('L')}`;
}
