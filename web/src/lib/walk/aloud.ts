import { preferences } from '$lib/client/preferences.svelte.ts';

const TONE_MS = 70;
let sound: AudioContext | null = null;

/** A touch was taken: felt where the device can, and heard where what it says is read out. @param strong a thing was written down for good */
export function felt(strong: boolean): void {
  navigator.vibrate?.(strong ? 40 : 20);
  if (!preferences.aloud || !('AudioContext' in window)) return;
  sound ??= new AudioContext();
  const tone = new OscillatorNode(sound, { frequency: strong ? 660 : 440 });
  tone.connect(new GainNode(sound, { gain: 0.2 })).connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + TONE_MS / 1000);
}

/** Reads something out, where that is wished and the device can: what it was reading before is cut short. */
export function readAloud(text: string): void {
  if (!preferences.aloud || !('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const spoken = new SpeechSynthesisUtterance(text);
  spoken.lang = 'en';
  speechSynthesis.speak(spoken);
}
