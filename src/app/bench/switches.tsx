import { useState } from 'react';
import { Button, Flex } from '../ui/kit.tsx';
import { useNotice } from '../ui/notices.tsx';
import { useSettings } from '../ui/settings.tsx';

/** What calls out at the bench: each has its switch and none is needed. */
export function Switches() {
  const { settings, change } = useSettings();
  const tell = useNotice();
  const allow = async () => {
    if (settings.notify) return change({ notify: false });
    if (typeof Notification === 'undefined')
      return tell({ say: 'This browser has no notifications. Sounds work all the same.' });
    const answer = await Notification.requestPermission();
    change({ notify: answer === 'granted' });
    if (answer !== 'granted')
      tell({ say: 'This browser does not allow notifications for this page. Sounds work all the same.' });
  };
  const all = [
    ['Sound', settings.sound, () => change({ sound: !settings.sound })],
    ['Voice', settings.speech, () => change({ speech: !settings.speech })],
    ['Shake', settings.vibrate, () => change({ vibrate: !settings.vibrate })],
    ['Notify', settings.notify, () => void allow()],
  ] as const;
  const [open, setOpen] = useState(false);
  return (
    <Flex wrap="wrap" role="group" aria-label="What calls out">
      <Button
        display={{ base: 'inline-flex', md: 'none' }}
        variant="ghost"
        minH="44px"
        px="2.5"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        Calls
      </Button>
      <Flex wrap="wrap" display={{ base: open ? 'flex' : 'none', md: 'flex' }}>
        {all.map(([name, on, turn]) => (
          <Button key={name} variant="ghost" minH="44px" px="2.5" aria-pressed={on} onClick={turn}>
            {name} {on ? 'on' : 'off'}
          </Button>
        ))}
      </Flex>
    </Flex>
  );
}
