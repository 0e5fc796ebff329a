import { defaultClientConditions, defaultServerConditions } from 'vite';

/** The core is taken as it is written, not as it was last built. */
const SOURCE = '@baumkin/source';

export const onServer = { resolve: { conditions: [SOURCE, ...defaultServerConditions] } };
export const inBrowser = { conditions: [SOURCE, ...defaultClientConditions] };

/** Names this build: what another one derived and kept is derived anew. */
export const named = { BUILD: JSON.stringify(new Date().toISOString()) };
