import { useEffect, useRef } from 'react';
import type { Sign } from '../../core/drying/index.ts';
import type { Preferences } from '../../core/preferences/index.ts';
import type { Action } from '../../core/schedule/index.ts';
import { notify } from '../ui/notify.ts';

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

/** Says words by the browser's voice, where it has one; at once, or after what is being said. */
export function sayAloud(words: string, when: 'now' | 'after' = 'now') {
  if (typeof speechSynthesis === 'undefined') return;
  if (when === 'now') speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

/** A code letter by letter, as a voice reads it. */
export const spelt = (code: string) => code.replace('-', '').split('').join(' ');

/** What is asked of a coat before it is worked on. */
export const ASKS = 'Is it ready?';

/** Says what is to be done and on which piece when it comes up, for who cannot look at the screen. */
export function useSpoken(action: Action, on: boolean, sign: Sign | undefined): void {
  const what = action.kind === 'do' && (sign ? `${ASKS} ${sign.question}` : action.link.step.action);
  const words = action.kind === 'do' ? `${what}, ${spelt(action.patch.code)}` : '';
  useEffect(() => {
    if (on && words) sayAloud(words, 'after');
  }, [words, on]);
}

export type CueSettings = Pick<Preferences, 'sound' | 'speech' | 'vibrate' | 'notify'>;

interface Cue {
  readonly at: number;
  readonly times: number;
  readonly hertz: number;
  readonly words: string;
}

const BEFORE_MS = 10_000;
/** Missed by more than this it is not called out any more; hidden tabs get their time only once a minute. */
const missedMs = () => (document.visibilityState === 'visible' ? 5000 : 90_000);

/** What is called out for an action: a little before its window opens, at the aim, before it closes; or when a wait ends. */
export function cuesOf(action: Action): Cue[] {
  if (action.kind === 'finished') return [];
  const { window, next } = { window: action.status.window, next: action.link.step.action };
  const name = spelt(action.patch.code);
  // A wait ends when the plan of the work says so, whatever the piece's own best moment is.
  if (action.kind === 'wait')
    return [{ at: action.until, times: 2, hertz: 659, words: `${next} now, ${name}` }];
  if (!window) return [];
  const lead = Math.min(BEFORE_MS, (window.aim - window.opens) / 2);
  const last = Math.min(30_000, (window.closes - window.aim) / 3);
  return [
    { at: window.opens - lead, times: 1, hertz: 523, words: `${next} soon, ${name}` },
    { at: window.aim, times: 2, hertz: 659, words: `${next} now, ${name}` },
    ...(action.status.patient
      ? []
      : [{ at: window.closes - last, times: 3, hertz: 880, words: `Last moment: ${next}, ${name}` }]),
  ];
}

/** Sounds, speaks, shakes and tells at the moments of the action; each has its switch. What was slept through is passed over. */
export function useCues(action: Action, now: number, on: CueSettings): void {
  const before = useRef(now);
  useEffect(() => {
    const last = before.current;
    before.current = now;
    for (const cue of cuesOf(action)) {
      if (!(last < cue.at && now >= cue.at && now - last < missedMs())) continue;
      if (on.sound) beep(cue.hertz, cue.times);
      if (on.speech) sayAloud(cue.words);
      if (on.vibrate)
        navigator.vibrate?.(Array.from({ length: cue.times * 2 }, (_, i) => (i % 2 ? 100 : 150)));
      if (on.notify) void notify(cue.words, 'wet-test-bench', location.pathname);
    }
  }, [now, action, on]);
}
