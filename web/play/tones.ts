import type { Tone } from './flourishes.ts';

/** No more than so many tones at once: a burst of changes must not become a roar. */
const MOST_AT_ONCE = 8;
const ATTACK = 0.008;
const RELEASE = 0.06;

/** Plays short synthesised tones. Nothing of the session depends on it. */
export interface Tones {
  play(tones: readonly Tone[], volume: number): void;
  stop(): void;
}

export function createTones(): Tones {
  let context: AudioContext | null = null;
  let sounding = 0;
  return {
    play(tones, volume) {
      if (volume <= 0 || tones.length === 0) return;
      context ??= new AudioContext();
      for (const { pitch, seconds, volume: own } of tones) {
        if (sounding >= MOST_AT_ONCE) return;
        const oscillator = context.createOscillator();
        const gain = context.createGain();
        const begin = context.currentTime;
        const end = begin + Math.max(seconds, ATTACK) + RELEASE;
        oscillator.type = 'triangle';
        oscillator.frequency.value = pitch;
        gain.gain.setValueAtTime(0, begin);
        gain.gain.linearRampToValueAtTime(own * volume, begin + ATTACK);
        gain.gain.linearRampToValueAtTime(0, end);
        oscillator.connect(gain).connect(context.destination);
        sounding += 1;
        oscillator.onended = () => {
          sounding -= 1;
        };
        oscillator.start(begin);
        oscillator.stop(end);
      }
    },
    stop() {
      void context?.close();
      context = null;
    },
  };
}
