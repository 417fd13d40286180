import type { TrialRecord } from '../core/trial/index.ts';
import type { Stores } from './stores.ts';
import { withoutMaps } from './trial-files.ts';
import type { Trials } from './trials.ts';

/** Records of so many bytes' worth of keys are moved in one entry. */
const PER_ENTRY = 200;

/**
 * Moves records from where earlier versions kept them (`records`, one key for each, maps inside) to the trial's log
 * and maps. May be broken off anywhere and begun again: a record is taken away only when it stands in the log, and
 * one that stands there already is not written twice. An older tab that goes on writing there loses nothing either:
 * what it wrote is moved the next time.
 */
export async function moveOldRecords(
  { records, maps }: Stores,
  { log, inTurn }: Trials,
  stores: Stores,
): Promise<void> {
  const keys = await records.keys();
  if (!keys.length) return;
  const byTrial = new Map<string, string[]>();
  for (const key of keys) {
    const trial = key.slice(0, key.indexOf('/'));
    byTrial.set(trial, [...(byTrial.get(trial) ?? []), key]);
  }
  for (const [trial, own] of byTrial)
    await inTurn(trial, async () => {
      await stores.summaries.removeItem(trial);
      const there = new Set(
        (await log.entries(trial))
          .flatMap(e => (e.records ?? []) as { id?: unknown }[])
          .map(r => String(r?.id)),
      );
      for (let from = 0; from < own.length; from += PER_ENTRY) {
        const part = own.slice(from, from + PER_ENTRY);
        const moving: unknown[] = [];
        for (const key of part) {
          const raw = await records.getItem<unknown>(key);
          if (raw === null || there.has(String((raw as { id?: unknown }).id))) continue;
          moving.push(await lightened(raw, map => maps.setItem(`${trial}/${map.record}`, map.maps)));
        }
        if (moving.length) await log.append(trial, { records: moving });
        for (const key of part) await records.removeItem(key);
      }
    });
}

/** A record as it is stored now; what is no record of ours is kept as it is. */
async function lightened(
  raw: unknown,
  keep: (map: { record: string; maps: unknown }) => Promise<unknown>,
): Promise<unknown> {
  const isReading =
    (raw as { kind?: unknown }).kind === 'reading' && !!(raw as { reading?: unknown }).reading;
  if (!isReading) return raw;
  const { light, maps } = withoutMaps([raw as TrialRecord]);
  for (const [record, own] of maps) await keep({ record, maps: own });
  return light[0];
}
