import { expect, it } from 'vitest';

import { clearUp } from '../src/lib/server/clearUp.ts';
import { Tries } from '../src/lib/server/db/index.ts';
import { countTry, forgetTries, uncountTry } from '../src/lib/server/throttle.ts';
import { useFreshDatabase } from './database.ts';

useFreshDatabase();

it('many who try at once from one address, and are right or wrong, are all answered', async () => {
  const rule = { free: 1e6, firstWaitS: 2, longestWaitS: 300, forgottenAfterS: 3600 };
  const hand = async (i: number) => {
    for (let n = 0; n < 80; n++) {
      await countTry([
        [`name:${i}.${n % 7}`, rule],
        ['address:192.0.2.1', rule]
      ]);
      if (n % 3 > 0) await forgetTries(`name:${i}.${n % 7}`);
      if (n % 3 > 1) await uncountTry('address:192.0.2.1');
    }
  };
  await Promise.all(Array.from({ length: 8 }, (_, i) => hand(i)));
  const { tries } = (await Tries.findByPk('address:192.0.2.1'))!;
  // 26 of each hand's 80 were taken off again.
  expect(tries).toBe(8 * 80 - 8 * 26);
});

it('tries that nobody waits for any more are cleared up', async () => {
  const rule = { free: 3, firstWaitS: 2, longestWaitS: 300, forgottenAfterS: 3600 };
  await countTry([['name:long.ago', rule]], new Date('2026-01-01'));
  await clearUp();
  expect(await Tries.findByPk('name:long.ago')).toBeNull();
});
