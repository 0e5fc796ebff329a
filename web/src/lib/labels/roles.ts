import type { Role } from '@baumkin/core/records';

/** What each role is called beside a name. */
export const ROLE_SAYS: Readonly<Record<Role, string>> = { steward: 'steward', crew: 'helper', viewer: 'viewer' };

/** What somebody may do by it, said to herself. */
export const ROLE_LETS_YOU: Readonly<Record<Role, string>> = {
  steward: 'You decide with the other stewards: everything can be seen and changed.',
  crew: 'You write down the work that you do: measure, drill, look, empty buckets.',
  viewer: 'You look: trees, map and what was done. Nothing can be changed.'
};

/** The same, said of others. */
export const ROLE_MEANS: Readonly<Record<Role, string>> = {
  steward: 'decides everything, and who belongs here',
  crew: 'writes down work',
  viewer: 'looks and changes nothing'
};
