import { Table } from '@chakra-ui/react';
import { planCost } from '../../core/design/index.ts';
import { FACTORS, SETTING_KEYS } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import { forecast } from '../../core/schedule/index.ts';
import {
  airOf,
  FACTOR_LETTERS,
  factorIn,
  isVariedIn,
  levelName,
  methodsOf,
  namesOf,
  sizeOf,
  type TrialPlan,
  type TrialRecord,
} from '../../core/trial/index.ts';
import { length, span, temperature, volume } from '../../core/units/index.ts';
import { Box, Heading, Text } from '../ui/kit.tsx';
import { Said, useSettings } from '../ui/settings.tsx';
import { moment } from '../ui/time.ts';

/** What a plan varies, what it costs and when it is done. */
export function PlanSummary({
  plan,
  records,
  start,
  ends,
}: {
  plan: TrialPlan;
  records: readonly TrialRecord[];
  start: number;
  /** When it is done by the plan of the work, ms; without it, as if worked on alone and without a pause. */
  ends?: number;
}) {
  const { settings } = useSettings();
  const cost = planCost(plan);
  const ahead = forecast(plan, records, start);
  const air = airOf(plan, records);
  const made = plan.patches.filter(p => p.levels.length);
  const later = plan.patches.filter(p => p.batch).length;
  const controls = plan.patches.length - made.length;
  const combos = new Set(made.map(p => p.levels.join())).size;
  const methods = methodsOf(plan);
  return (
    <Box>
      {plan.question && (
        <Text fontSize="1.2rem" mb="3">
          {plan.question}
        </Text>
      )}
      <Text mb="3">
        <b>{plan.patches.length} patches</b> of{' '}
        {[...new Set([plan.patchMm, sizeOf(plan).h])].map(mm => length(mm, settings.system)).join(' × ')} by{' '}
        {listed(methods.map(m => m.name.toLowerCase()))}: {combos} combinations
        {plan.design.kind === 'best fraction'
          ? `, the best ${made.length} patches of all that are possible`
          : `, each ${plan.repeats === 1 ? 'once' : `${plan.repeats} times`}`}
        {later > 0 && `, ${later} of them added later`}
        {controls > 0 && `, and ${controls} of your usual way`}, wanted {plan.intent}. Order and places are
        shuffled from seed <b>{plan.seed}</b>; repeats are kept apart in place and in time.
      </Text>
      {plan.repeats === 1 && plan.design.kind !== 'best fraction' && (
        <Text mb="3" color="warn.fg">
          Each combination is made once, so chance cannot be told from effect as well. Two of each is better.
        </Text>
      )}
      <Table.Root size="sm" mb="5">
        <Table.Body>
          {plan.factors.map((f, i) => (
            <Table.Row key={f.key} bg="transparent">
              <Table.Cell fontWeight="700" ps="0">
                {FACTOR_LETTERS[i]}. {factorIn(plan, f.key)}
              </Table.Cell>
              <Table.Cell>
                <Said>{f.levels.map(l => levelName(namesOf(plan), f.key, l)).join(' · ')}</Said>
                {!methods.every(m => isVariedIn(f, m)) &&
                  `, in ${listed(methods.filter(m => isVariedIn(f, m)).map(m => m.name.toLowerCase()))} only`}
              </Table.Cell>
            </Table.Row>
          ))}
          {methods.map(m => (
            <Table.Row key={m.id} bg="transparent">
              <Table.Cell fontWeight="700" ps="0">
                {methods.length > 1 ? `Always in ${m.name.toLowerCase()}` : 'Same for all'}
              </Table.Cell>
              <Table.Cell>
                <Said>{sameForAll(plan, m)}</Said>
              </Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      <Heading as="h2" size="lg" mb="1">
        Time and cost
      </Heading>
      <Text mb="2" display={ahead.handsOnMin ? 'block' : 'none'}>
        Done about <b>{moment(ends ?? ahead.endsAt, start)}</b> if you begin now: {span(ahead.handsOnMin)} of
        work, the rest is waiting, in air of {temperature(air.tempC, settings.system)} and {air.rh} %
        humidity.
      </Text>
      <Table.Root size="sm">
        <Table.Body>
          {cost.lines.map(line => (
            <Table.Row key={line.what} bg="transparent">
              <Table.Cell ps="0">{line.what}</Table.Cell>
              <Table.Cell>
                <Said>{line.amount}</Said>
              </Table.Cell>
              <Table.Cell textAlign="end">{line.price.toFixed(2)}</Table.Cell>
            </Table.Row>
          ))}
          <Table.Row fontWeight="700" bg="transparent">
            <Table.Cell ps="0">Together</Table.Cell>
            <Table.Cell>
              {volume(
                cost.mediums.reduce((s, m) => s + m.ml, 0),
                settings.system,
              )}{' '}
              of medium
            </Table.Cell>
            <Table.Cell textAlign="end">{cost.total.toFixed(2)}</Table.Cell>
          </Table.Row>
        </Table.Body>
      </Table.Root>
      {cost.buy.length > 0 && (
        <Text mt="2">
          <b>To buy:</b> <Said>{cost.buy.map(b => `${b.amount} ${b.what.toLowerCase()}`).join('; ')}</Said>.
          {cost.isCounted
            ? 'The rest is on your shelf.'
            : 'Your shelf does not say what you have: write it there, and this gets shorter.'}
        </Text>
      )}
    </Box>
  );
}

const listed = (names: readonly string[]) =>
  names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names.join('');

function sameForAll(plan: TrialPlan, method: Method): string {
  const varied = new Set<string>(plan.factors.filter(f => isVariedIn(f, method)).map(f => f.key));
  const usual = plan.compared?.find(c => c.method === method.id)?.usual ?? plan.usual;
  const medium = plan.used.mediums.find(m => m.id === usual.medium);
  return SETTING_KEYS.filter(key => {
    const value = usual[key];
    if (varied.has(key) || value === '') return false;
    if (key === 'copyAgeH' || (key === 'rounds' && !method.steps.some(s => s.eachRound))) return false;
    if (['coatMm', 'medium'].includes(key) && medium?.kind === 'none') return false;
    return FACTORS[key].levels !== 'options' || method.vary.includes(key);
  })
    .map(key => {
      const name = levelName(namesOf(plan), key, usual[key]);
      if (key === 'dryHours') return `${method.waitName.toLowerCase()} ${name}`;
      return key === 'coatMm' ? `${name} coat` : name;
    })
    .join(' · ');
}
