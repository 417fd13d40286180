import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { TrialSummary } from '../../core/summary/index.ts';
import { workshopOf } from '../../store/index.ts';
import { isBackupDue, lastBackup } from '../../store/keep-safe.ts';
import { Flex, Text } from '../ui/kit.tsx';
import { useWorkshop } from '../workshop/workshop.ts';

/** A line that reminds of a backup where the last one is old and something was made since. */
export function BackupDue({ trials, now }: { trials: readonly TrialSummary[]; now: number }) {
  const name = useWorkshop();
  /** Nothing until it is known. */
  const [last, setLast] = useState<{ readonly at?: number }>();
  useEffect(() => {
    lastBackup(workshopOf(name)).then(
      found => setLast(found ? { at: Date.parse(found.at) } : {}),
      () => {},
    );
  }, [name]);
  const created = trials.map(t => Date.parse(t.createdAt));
  // What is under way is worked at now.
  const newest = trials.some(t => t.standing === 'under way') && last?.at ? now : Math.max(...created);
  if (name === 'demo' || !last || !trials.length || !isBackupDue(last.at, newest, now)) return null;
  const days = Math.floor((now - (last.at ?? newest)) / 86_400_000);
  return (
    <Flex mt="9" gap="3" wrap="wrap" align="center" role="status">
      <Text>
        {last.at === undefined
          ? 'All of this is in this browser alone, and was never backed up.'
          : `The last backup is ${days} days old.`}
      </Text>
      <Link to={`/w/${name}/safe`} style={{ textDecoration: 'underline', lineHeight: '44px' }}>
        Keep it safe
      </Link>
    </Flex>
  );
}
