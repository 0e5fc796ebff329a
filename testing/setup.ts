import fc from 'fast-check';

import { tries } from './long.ts';

// Properties that do not say otherwise are tried so often.
fc.configureGlobal(tries(100));
