import { useEffect, useRef } from 'react';
import type { Action } from '../../core/schedule/index.ts';

/** Keeps the screen awake while the bench is open, where the browser can; quietly does without where it cannot. */
export function useWakeLock(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const ask = async () => {
      try {
        lock = await navigator.wakeLock?.request('screen');
        if (gone) await lock?.release();
      } catch {
        // Not allowed (battery saver, not visible): the bench works all the same.
      }
    };
    const again = () => document.visibilityState === 'visible' && void ask();
    void ask();
    document.addEventListener('visibilitychange', again);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release();
    };
  }, []);
}

function beep(hertz: number, times: number) {
  const audio = new AudioContext();
  for (let i = 0; i < times; i++) {
    const tone = audio.createOscillator();
    const gain = audio.createGain();
    tone.frequency.value = hertz;
    gain.gain.value = 0.15;
    tone.connect(gain).connect(audio.destination);
    tone.start(audio.currentTime + i * 0.25);
    tone.stop(audio.currentTime + i * 0.25 + 0.15);
  }
  setTimeout(() => void audio.close(), 1500);
}

/** One tone when the window opens, two at the aim, three before it closes; the phone shakes with them. */
export function useCues(action: Action, now: number, on: boolean): void {
  const before = useRef(now);
  const window = action.kind === 'finished' ? undefined : action.status.window;
  useEffect(() => {
    const last = before.current;
    before.current = now;
    if (!window || !on) return;
    const passed = (at: number) => last < at && now >= at && now - last < 5000;
    const cue = (times: number, hertz: number) => {
      beep(hertz, times);
      navigator.vibrate?.(Array.from({ length: times * 2 }, (_, i) => (i % 2 ? 100 : 150)));
    };
    if (passed(window.opens)) cue(1, 523);
    if (passed(window.aim)) cue(2, 659);
    if (passed(window.closes - Math.min(30_000, (window.closes - window.aim) / 3))) cue(3, 880);
  }, [now, window, on]);
}
