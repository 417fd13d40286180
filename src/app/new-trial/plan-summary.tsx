import { Table } from '@chakra-ui/react';
import { planCost } from '../../core/design/index.ts';
import { FACTORS, SETTING_KEYS } from '../../core/factors/index.ts';
import type { Method } from '../../core/methods/index.ts';
import {
  celsius,
  joined,
  listed,
  mL,
  say,
  sized,
  span,
  type Words,
  within,
  write,
} from '../../core/say/index.ts';
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

import { Box, Heading, Text } from '../ui/kit.tsx';
import { Said } from '../ui/settings.tsx';
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
        <b>{plan.patches.length} patches</b> of <Said>{sized(sizeOf(plan))}</Said> by{' '}
        {write(listed(methods.map(m => within(m.name))))}: {combos} combinations
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
                <Said>
                  {joined(
                    f.levels.map(l => levelName(namesOf(plan), f.key, l)),
                    ' · ',
                  )}
                </Said>
                {!methods.every(m => isVariedIn(f, m)) &&
                  `, in ${write(listed(methods.filter(m => isVariedIn(f, m)).map(m => within(m.name))))} only`}
              </Table.Cell>
            </Table.Row>
          ))}
          {methods.map(m => (
            <Table.Row key={m.id} bg="transparent">
              <Table.Cell fontWeight="700" ps="0">
                {methods.length > 1 ? `Always in ${within(m.name)}` : 'Same for all'}
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
        work, the rest is waiting, in air of <Said>{celsius(air.tempC, { places: 0 })}</Said> and {air.rh} %
        humidity.
      </Text>
      <Table.Root size="sm">
        <Table.Body>
          {cost.lines.map(line => (
            <Table.Row key={write(line.what)} bg="transparent">
              <Table.Cell ps="0">
                <Said>{line.what}</Said>
              </Table.Cell>
              <Table.Cell>
                <Said>{line.amount}</Said>
              </Table.Cell>
              <Table.Cell textAlign="end">{line.price.toFixed(2)}</Table.Cell>
            </Table.Row>
          ))}
          <Table.Row fontWeight="700" bg="transparent">
            <Table.Cell ps="0">Together</Table.Cell>
            <Table.Cell>
              <Said>
                {mL(
                  cost.mediums.reduce((s, m) => s + m.ml, 0),
                  { places: 0 },
                )}
              </Said>{' '}
              of medium
            </Table.Cell>
            <Table.Cell textAlign="end">{cost.total.toFixed(2)}</Table.Cell>
          </Table.Row>
        </Table.Body>
      </Table.Root>
      {cost.buy.length > 0 && (
        <Text mt="2">
          <b>To buy:</b>{' '}
          <Said>
            {joined(
              cost.buy.map(b => say`${b.amount} ${within(b.what)}`),
              '; ',
            )}
          </Said>
          .
          {cost.isCounted
            ? 'The rest is on your shelf.'
            : 'Your shelf does not say what you have: write it there, and this gets shorter.'}
        </Text>
      )}
    </Box>
  );
}

function sameForAll(plan: TrialPlan, method: Method): Words {
  const varied = new Set<string>(plan.factors.filter(f => isVariedIn(f, method)).map(f => f.key));
  const usual = plan.compared?.find(c => c.method === method.id)?.usual ?? plan.usual;
  const medium = plan.used.mediums.find(m => m.id === usual.medium);
  const same = SETTING_KEYS.filter(key => {
    const value = usual[key];
    if (varied.has(key) || value === '') return false;
    if (key === 'copyAgeH' || (key === 'rounds' && !method.steps.some(s => s.eachRound))) return false;
    if (['coatMm', 'medium'].includes(key) && medium?.kind === 'none') return false;
    return FACTORS[key].levels !== 'options' || method.vary.includes(key);
  }).map(key => {
    const name = levelName(namesOf(plan), key, usual[key]);
    if (key === 'dryHours') return say`${within(method.waitName)} ${name}`;
    return key === 'coatMm' ? say`${name} coat` : name;
  });
  return joined(same, ' · ');
}
