import { conditionEffects, instruct, trunkToday, type Condition } from '@baumkin/core';
import { describe, expect, it } from 'vitest';

import { forbiddenWords, nothingIsCut } from '../src/lib/labels/permission.ts';
import { instructionWords, objectionWords } from '../src/lib/labels/placement.ts';
import { conditionWords, suggestionWords } from '../src/lib/labels/taps.ts';
import { clashWords } from '../src/lib/labels/thinning.ts';

describe('where to drill', () => {
  const trunk = trunkToday(400, 1.5, 2027, []);
  const name = { kind: 'hole', season: 2026, age: 'newest', paint: 'green', sideDeg: null } as const;
  const said = (...[spot, mark, system, snow]: [...Parameters<typeof words>]) => words(spot, mark, system, snow);
  function words(
    spot: { bearingDeg: number; heightMm: number },
    landmark: Parameters<typeof instruct>[2],
    system: 'metric' | 'inch' = 'metric',
    snowMm = 0
  ) {
    return instructionWords(instruct(trunk, spot, landmark, snowMm), system);
  }

  it('is said from a mark as a hand and a tape find it, in her units', () => {
    const spot = { bearingDeg: 180 + (90 / 200 / Math.PI) * 180, heightMm: 960 };
    const mark = { name, bearingDeg: 180, heightMm: 1200 };
    expect(said(spot, mark).sentence).toBe('From the hole at the newest green mark: 9 cm left, 24 cm down.');
    expect(said(spot, mark, 'inch').sentence).toBe(
      'From the hole at the newest green mark: 3 1/2 in left, 9 1/2 in down.'
    );
    expect(said({ bearingDeg: 180, heightMm: 1200 }, mark).sentence).toMatch(/: at the same place\.$/);
  });

  it('is said by compass and height where there is none, and from the snow that she stands on', () => {
    const bare = said({ bearingDeg: 138, heightMm: 1320 }, null);
    expect(bare).toMatchObject({
      sentence: 'On the SE side, bearing 140°, 132 cm above the ground.',
      bodyHeight: 'chest height'
    });
    const snow = said({ bearingDeg: 138, heightMm: 1750 }, null, 'metric', 700);
    expect(snow.bodyHeight).toBe('belly height as you stand on the snow');
    expect(snow.sentence).toMatch(/175 cm above the ground, 105 cm above the snow/);
  });

  it('is refused with what stands there', () => {
    expect(objectionWords({ why: 'nearDefect', what: 'seam' })).toBe('too near to a seam');
    expect(objectionWords({ why: 'nearDefect', what: null })).toBe('too near to a defect');
    expect(objectionWords({ why: 'offStep', strategy: 'pattern', season: 2026 })).toMatch(/1 to 2 in.*of 2026/);
    expect(objectionWords({ why: 'notSunny', bearingDeg: 0 })).toBe('on the N side, not the sunny one');
  });
});

describe('why a count is what it is', () => {
  const look: Condition = {
    on: '2026-07-01',
    diebackPct: 30,
    oldestOpenHoleYears: 2,
    stressed: true,
    peeledPct: 40,
    peelFresh: true
  };

  it('is told of everything that was seen, in whole sentences', () => {
    const told = conditionEffects(look, '2027-08-15').map(({ reason }) => conditionWords(reason));
    expect(told).toHaveLength(5);
    for (const sentence of told) expect(sentence).toMatch(/^[A-Z0-9].*\.$/);
    expect(told.join(' ')).toMatch(
      /30 % of the crown.*perhaps still open after 3 years.*40 % of its girth.*neighbours/
    );
    expect(conditionWords({ why: 'openHole', years: 1, weak: false, seen: null })).toMatch(/after 1 year: that/);
  });

  it('says what is still open before it says how many', () => {
    const guideline = { name: 'Metric ladder' } as never;
    expect(suggestionWords({ why: 'size', guideline, taps: 1, unseen: true, roomOpen: true }, null)).toBe(
      'Its size allows one by the metric ladder rule. That is not the last word: nobody has looked up at it lately, and clear places have not been looked for yet.'
    );
    expect(suggestionWords({ why: 'size', guideline, taps: 2, unseen: false, roomOpen: false }, null)).toMatch(
      /allows 2 .*nothing else asks for fewer\.$/
    );
    expect(suggestionWords({ why: 'forbidden' }, 'Never tapped.')).toBe('Never tapped.');
    expect(suggestionWords({ why: 'growth', holes: 1 }, null)).toMatch(/one hole a year kills/);
  });
});

describe('what is forbidden, and by whom', () => {
  it('is named with its reason and until when', () => {
    expect(forbiddenWords({ why: 'banned', reasons: ['salt', 'septic'], until: '2030-01-01' })).toBe(
      'Never tapped: it stands where road salt reaches its roots; it stands by a septic field (until 2030-01-01).'
    );
    const word = { stand: 'Ledge', by: 'the land trust', until: '2027-05-01' };
    expect(forbiddenWords({ why: 'stand', ...word })).toBe(
      'Ledge is not to be tapped (the land trust says so), until 2027-05-01.'
    );
    expect(nothingIsCut({ ...word, by: '', until: null })).toBe('Nothing is cut in Ledge');
    expect(clashWords({ going: ['threatens'], hold: { why: 'markedKeep', reason: '', keepFor: 'nuts' } })).toBe(
      'it is a hazard over a path, building or line, but it is marked to keep for nuts'
    );
  });
});
