import type { AnswerOf } from '../server/contract.ts';
import { counted } from '$lib/labels/counted.ts';

/** A device that holds a bush, as it said last. */
export type Held = AnswerOf<'Held'>['held'][number];

const DAY_MS = 86_400_000;

/** When something was seen, as one says it: "at 10:04", "yesterday at 10:04", "on 3 March". */
export function whenWords(at: string, now = new Date()): string {
  const then = new Date(at);
  const time = then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const midnight = (day: Date) => new Date(day.getFullYear(), day.getMonth(), day.getDate()).getTime();
  const days = Math.round((midnight(now) - midnight(then)) / DAY_MS);
  if (days <= 0) return `today at ${time}`;
  if (days === 1) return `yesterday at ${time}`;
  const year = then.getFullYear() === now.getFullYear() ? {} : ({ year: 'numeric' } as const);
  return `on ${then.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', ...year })}`;
}

/** What a device holds, in a sentence. What it wrote since it was seen nobody here can know. */
export function heldWords({ device, behind, waiting, seenAt, signedIn }: Held, now = new Date()): string {
  const has =
    behind === 0
      ? 'has the whole bush as it is'
      : `has the bush without the last ${behind === 1 ? 'change' : counted(behind, 'change')}`;
  const waits = waiting === 0 ? 'nothing waited there' : `${counted(waiting, 'record')} waited there to be sent`;
  const out = signedIn ? '' : '; signed out from here, and drops it when it is next opened';
  return `${device || 'A device'}, seen ${whenWords(seenAt, now)}: ${has}, ${waits}${out}.`;
}
