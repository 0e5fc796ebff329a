import { preferences } from '$lib/client/preferences.svelte.ts';

/** Reads something out, where that is wished and the device can: what it was reading before is cut short. */
export function readAloud(text: string): void {
  if (!preferences.aloud || !('speechSynthesis' in window)) return;
  speechSynthesis.cancel();
  const spoken = new SpeechSynthesisUtterance(text);
  spoken.lang = 'en';
  speechSynthesis.speak(spoken);
}
