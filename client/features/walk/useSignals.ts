// What is heard and felt of a walk test at arm's length: a tick for each gate, higher the further; a chord when something fires.

import { useEffect, useRef } from 'react';
import type { ItemNow } from '../../state/api/types';

let audio: AudioContext | undefined;

/** Browsers make sound only after someone has pressed something: called when the test is started. */
export function openSound(): void {
  if (typeof AudioContext === 'undefined') return;
  audio ??= new AudioContext();
  void audio.resume();
}

function tone(hertz: number, afterSeconds: number, seconds: number): void {
  if (!audio) return;
  const from = audio.currentTime + afterSeconds;
  const [sound, loud] = [audio.createOscillator(), audio.createGain()];
  sound.frequency.value = hertz;
  loud.gain.setValueAtTime(0.0001, from);
  loud.gain.exponentialRampToValueAtTime(0.25, from + 0.01);
  loud.gain.exponentialRampToValueAtTime(0.0001, from + seconds);
  sound.connect(loud).connect(audio.destination);
  sound.start(from);
  sound.stop(from + seconds);
}

const lowest = 330;

/** Sounds and buzzes for every step forward of any item. */
export function useSignals(items: readonly ItemNow[], isOn: boolean): void {
  const before = useRef<string[]>(undefined);
  useEffect(() => {
    const now = items.map((i) => `${i.steps} ${i.result.state}`);
    const last = before.current;
    before.current = now;
    if (!last || !isOn) return;
    items.forEach((item, i) => {
      if (now[i] === last[i]) return;
      if (item.result.state === 'answered') {
        if (last[i]?.endsWith('answered')) return;
        [0, 4, 7].forEach((half, k) => tone(lowest * 2 ** ((half + 12) / 12), k * 0.09, 0.5));
        navigator.vibrate?.([120, 60, 240]);
        return;
      }
      const lit = item.lights.filter((l) => l.state === 'passed').length;
      tone(lowest * 2 ** (lit / 12), 0, 0.12);
      navigator.vibrate?.(30);
    });
  }, [items, isOn]);
}
