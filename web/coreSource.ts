import { defaultClientConditions, defaultServerConditions } from 'vite';

/** The core is taken as it is written, not as it was last built. */
const SOURCE = '@baumkin/source';

export const onServer = { resolve: { conditions: [SOURCE, ...defaultServerConditions] } };
export const inBrowser = { conditions: [SOURCE, ...defaultClientConditions] };
