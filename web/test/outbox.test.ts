import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

import { sendInHalves, type Answer } from '../src/lib/client/sendInHalves.ts';

describe('the outbox', () => {
  /** A server that takes no batch with a bad record in it, nor one larger than it likes. */
  const server =
    (bad: ReadonlySet<number>, largest: number, posts: number[][]) =>
    (part: readonly number[]): Promise<Answer<number>> => {
      posts.push([...part]);
      return Promise.resolve(
        part.length > largest || part.some((n) => bad.has(n))
          ? { kind: 'refused', reason: 'too large or broken', final: true }
          : { kind: 'taken', outcomes: part }
      );
    };

  it('one refused record, or a batch too large, stops none of the others, and their order stays', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.nat(500), { maxLength: 120 }),
        fc.array(fc.nat(500), { maxLength: 5 }),
        fc.integer({ min: 1, max: 200 }),
        async (batch, bad, largest) => {
          const posts: number[][] = [];
          const broken = new Set(bad);
          const { outcomes, aside, stopped } = await sendInHalves(batch, server(broken, largest, posts));
          expect(stopped).toBeNull();
          expect(outcomes).toEqual(batch.filter((n) => !broken.has(n)));
          expect(aside.map(({ item }) => item)).toEqual(batch.filter((n) => broken.has(n)));
          // It ends, and without asking for every record twice over.
          expect(posts.length).toBeLessThanOrEqual(2 * Math.max(1, batch.length));
        }
      )
    );
  });

  it('stops where nobody answers: what was taken stays taken, the rest is not thrown away', async () => {
    let asked = 0;
    const { outcomes, aside, stopped } = await sendInHalves([1, 2, 3, 4], (part) => {
      asked += 1;
      if (asked === 1) return Promise.resolve({ kind: 'refused', reason: 'too large', final: true });
      if (asked === 2) return Promise.resolve({ kind: 'taken', outcomes: part });
      return Promise.resolve({ kind: 'stop', reason: 'no network' });
    });
    expect([outcomes, aside, stopped]).toEqual([[1, 2], [], { reason: 'no network' }]);
  });
});
