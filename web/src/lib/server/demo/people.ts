import type { Role } from '@baumkin/core';

export const DEMO_BUSH_NAME = 'Corran Hill Common';

/** Invented people; the first is the one that the sign-in page offers. */
export const DEMO_PEOPLE: readonly {
  readonly signInName: string;
  readonly displayName: string;
  readonly password: string;
  readonly role: Role;
}[] = [
  { signInName: 'hedda', displayName: 'Hedda Spilewright', password: 'pale-shavings', role: 'steward' },
  { signInName: 'tomke', displayName: 'Tomke Brookpail', password: 'pale-shavings', role: 'crew' },
  { signInName: 'visitor', displayName: 'A Visitor', password: 'pale-shavings', role: 'viewer' }
];
