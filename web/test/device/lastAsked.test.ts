import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';

import { keepAnswer, keptAnswer } from '../../src/lib/client/answers.ts';
import { store } from '../../src/lib/client/store.ts';
import { lastAsked } from '../../src/lib/workers/lastAsked.ts';

describe('a worker that is asked faster than it answers', () => {
  it('is asked one thing after the other, and of what came meanwhile the last alone', async () => {
    const asked: number[] = [];
    const took: [number, number][] = [];
    let answer: (value: number) => void = () => undefined;
    const ask = lastAsked(
      (question: number) => {
        asked.push(question);
        return new Promise<number>((resolve) => (answer = resolve));
      },
      (question, found) => took.push([question, found])
    );
    const settle = () => new Promise((resolve) => setTimeout(resolve));
    [1, 2, 3, 4].forEach(ask);
    expect(asked).toEqual([1]);
    answer(10);
    await settle();
    expect([asked, took]).toEqual([[1, 4], []]);
    answer(40);
    await settle();
    ask(5);
    answer(50);
    await settle();
    expect([asked, took]).toEqual([
      [1, 4, 5],
      [
        [4, 40],
        [5, 50]
      ]
    ]);
  });

  it('is asked anew after a question on which it broke', async () => {
    const took: number[] = [];
    const ask = lastAsked(
      (question: number) => (question === 1 ? Promise.reject(new Error('broken')) : Promise.resolve(question)),
      (question) => took.push(question)
    );
    const heard = new Promise((resolve) => process.once('unhandledRejection', resolve));
    ask(1);
    await heard;
    ask(2);
    await new Promise((resolve) => setTimeout(resolve));
    expect(took).toEqual([2]);
  });
});

describe('what was worked out for a tree', () => {
  const BUSH = '4f9c2f7e-7f2f-4d43-9c4e-0d7a3c6f1a01';
  beforeEach(() => store.answers.clear());

  it('comes from the device for the same question, and not for another', async () => {
    await keepAnswer('place/x', BUSH, 'these holes', { holes: 3 });
    expect(await keptAnswer('place/x', 'these holes')).toEqual({ holes: 3 });
    expect(await keptAnswer('place/x', 'these holes, and one more')).toBeNull();
    expect(await keptAnswer('place/y', 'these holes')).toBeNull();
    await store.answers.update('place/x', { question: 'another core these holes' });
    expect(await keptAnswer('place/x', 'these holes')).toBeNull();
  });

  it('makes room for what is newer', async () => {
    for (let i = 0; i < 203; i++) {
      await keepAnswer(`place/${i}`, BUSH, 'q', i);
      await store.answers.update(`place/${i}`, { at: i });
    }
    expect(await store.answers.count()).toBe(200);
    expect([await keptAnswer('place/0', 'q'), await keptAnswer('place/202', 'q')]).toEqual([null, 202]);
  });
});
