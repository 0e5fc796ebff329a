import { judge, speciesById } from '@baumkin/core/identify';
import { questionReading } from '@baumkin/core/measure';
import type { RingCount, RotationRecord, TreeState } from '@baumkin/core/records';
import { conditionEffects, tapGuidelineById, type Condition } from '@baumkin/core/taps';
import { instruct, trunkToday, type OldHole } from '@baumkin/core/trunk';
import { formatLength, type LengthUse, type UnitSystem } from '@baumkin/core/units';
import { describe, expect, it } from 'vitest';

import { allowedWords, becauseWords, budBreakWords, leadWords, ratioWords } from '../src/lib/labels/identify.ts';
import { questionWords, ringCountWords } from '../src/lib/labels/measure.ts';
import { forbiddenWords, nothingIsCut } from '../src/lib/labels/permission.ts';
import {
  featureWords,
  instructionWords,
  inTheWayWords,
  objectionWords,
  sawnWords,
  shallowWords
} from '../src/lib/labels/placement.ts';
import { rotationWords } from '../src/lib/labels/rotation.ts';
import {
  conditionWords,
  dearWords,
  gearWords,
  guidelineRule,
  priceWords,
  suggestionWords
} from '../src/lib/labels/taps.ts';
import { barredWords, clashWords, cropPartWords } from '../src/lib/labels/thinning.ts';

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

  it('is told by her own body, from the snow, where she measured herself', () => {
    const own = { knee: 480, hip: 900, breast: 1200, shoulder: 1350, reach: 1950 };
    const at = (heightMm: number, snowMm = 0) =>
      instructionWords(instruct(trunk, { bearingDeg: 0, heightMm }, null, snowMm), 'metric', own).bodyHeight;
    expect([980, 900, 820, 1340, 1600].map((mm) => at(mm))).toEqual([
      '8 cm above your hip',
      'at your hip',
      '8 cm below your hip',
      'at your shoulder',
      '25 cm above your shoulder'
    ]);
    expect([1960, 2100].map((mm) => at(mm))).toEqual(['as high as you reach', 'higher than you reach']);
    expect(at(1680, 700)).toBe('8 cm above your hip as you stand on the snow');
  });

  it('is refused with what stands there', () => {
    expect(objectionWords({ why: 'nearDefect', what: 'seam' })).toBe('too near to a seam');
    expect(objectionWords({ why: 'nearDefect', what: null })).toBe('too near to a defect');
    expect(objectionWords({ why: 'offStep', strategy: 'pattern', season: 2026 })).toMatch(/1 to 2 in.*of 2026/);
    expect(objectionWords({ why: 'notSunny', bearingDeg: 0 })).toBe('on the N side, not the sunny one');
  });
});

describe('what a trunk has shown', () => {
  const ruler = (system: UnitSystem) => ({ length: (mm: number, use: LengthUse) => formatLength(mm, system, use) });
  const rings = {
    on: '2026-08-22',
    source: 'core',
    heightMm: 1300,
    rings: 84,
    toPith: false,
    last5Mm: null,
    last10Mm: 15,
    last20Mm: null,
    hollowFromMm: 90
  } as RingCount;

  it('counted rings, in her units', () => {
    expect(ringCountWords(rings, ruler('metric'))).toBe(
      'Core of 2026-08-22, 130 cm up: 84 rings and more; 15 mm over the last 10; hollow from 9 cm under the bark.'
    );
    expect(ringCountWords({ ...rings, source: 'stump', toPith: true, hollowFromMm: null }, ruler('inch'))).toBe(
      'Stump of 2026-08-22, 51 in up: 84 rings to the pith; 9/16 in over the last 10.'
    );
  });

  it('a column on a sawn face, as far as somebody looked', () => {
    expect(sawnWords({ widthMm: 16, lengthMm: 360, leanDeg: -3 }, ruler('metric'))).toBe(
      'a column 16 mm wide, 36 cm long, leaning 3° to the right'
    );
    expect(sawnWords({ widthMm: 16, lengthMm: null, leanDeg: null }, ruler('inch'))).toBe('a column 5/8 in wide');
    expect(sawnWords({ widthMm: 16, lengthMm: null, leanDeg: 0 }, ruler('metric'))).toMatch(/upright$/);
  });

  it('what stands on it or in the way, with its year where that is known', () => {
    expect(featureWords({ what: 'wound', since: 2015 })).toBe('a wound of 2015');
    expect(featureWords({ what: 'limb', since: 2015 })).toBe('a limb that broke off in 2015');
    expect(featureWords({ what: 'limb', since: null })).toBe('a big limb');
    const old = { season: 2015 } as OldHole;
    expect(inTheWayWords({ season: 2020 }, old)).toBe('the hole of 2020');
    expect(inTheWayWords(undefined, { ...old, wound: 'seam' })).toBe('the seam of 2015');
    expect(inTheWayWords(undefined, old)).toBe('an old scar of unknown year');
  });

  it('why its holes are shallower than the bush drills', () => {
    const state = (hollow: TreeState['line']['hollow']) => ({ line: { hollow } }) as TreeState;
    expect(shallowWords(state({ fromMm: 30, on: '2025-10-01' }))).toMatch(/hollow behind it/);
    expect(shallowWords(state(null))).toMatch(/turned brown where no old hole reaches/);
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
    const guideline = tapGuidelineById('metric');
    expect(
      suggestionWords({ why: 'size', guideline, taps: 1, unseen: true, roomOpen: true, growthOpen: false }, null)
    ).toBe(
      'Its size allows one by the metric ladder rule. That is not the last word: nobody has looked up at it lately and clear places have not been looked for yet.'
    );
    expect(
      suggestionWords({ why: 'size', guideline, taps: 2, unseen: false, roomOpen: false, growthOpen: false }, null)
    ).toMatch(/allows 2 .*nothing else asks for fewer\.$/);
    expect(suggestionWords({ why: 'forbidden' }, 'Never tapped.')).toBe('Never tapped.');
    expect(suggestionWords({ why: 'growth', holes: 1, measured: true }, null)).toBe(
      'New wood replaces what one hole a year kills, not more.'
    );
    const assumed = [
      suggestionWords({ why: 'size', guideline, taps: 1, unseen: false, roomOpen: false, growthOpen: true }, null),
      suggestionWords({ why: 'growth', holes: 2, measured: false }, null),
      suggestionWords({ why: 'slow', everyYears: 3, rested: true, measured: false }, null)
    ];
    for (const told of assumed) expect(told).toMatch(/not measured yet/);
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

describe('tapping guidelines', () => {
  it('are said in the steward’s units; one that was made in inches names them beside the centimetres', () => {
    expect(guidelineRule(tapGuidelineById('twelveEighteen'), 'metric')).toBe(
      'one from 30.5 cm (12 in), two over 45.7 (18)'
    );
    expect(guidelineRule(tapGuidelineById('twelveEighteen'), 'inch')).toBe('one from 12 in, two over 18');
    expect(guidelineRule(tapGuidelineById('metric'), 'metric')).toBe(
      'one from 25 cm, two over 40, three over 60, four over 80'
    );
  });

  it('bring things to have, each with its reason', () => {
    expect(gearWords('spouts', 100, 7.9375)).toEqual({
      name: 'spouts, 5/16 in',
      because: '100 and one spare in twenty; the spout must match the bit'
    });
    expect(gearWords('lateralLines', 100, 11.1125).because).toMatch(/about 5 taps on each/);
  });
});

describe('what a tree is', () => {
  it('is told with what it rests on, and what is missing', () => {
    expect(becauseWords(judge({}, 'grown').because)).toBe('Nothing has been looked at yet. Start with the branching.');
    expect(becauseWords(judge({ twigsFrom: 'beside' }, 'grown').because)).toMatch(/yet\. Find a branch or a shoot/);
    expect(becauseWords(judge({ arrangement: 'opposite' }, 'grown').because)).toBe(
      'Opposite twigs are also those of white or green ash, black ash, horse-chestnut or buckeye and dogwood. Look at bud shape or leaf to exclude them.'
    );
    expect(becauseWords({ why: 'settled', species: 'sugarMaple', clues: ['budShape', 'rub'] })).toMatch(
      /^Opposite twigs, with .* and .*, leave hardly anything but sugar maple\.$/
    );
    const papery = judge({ arrangement: 'opposite', barkGrown: 'papery', rub: 'peels' }, 'grown').because;
    expect(becauseWords(papery)).toMatch(
      /branching “opposite” with bark of a grown tree “papery curls”.*Look again at both/
    );
    expect(becauseWords({ why: 'odd', character: 'rub', state: 'holds', species: 'redMaple' })).toMatch(
      /rare on red maple/
    );
    expect(becauseWords({ why: 'mapleButWhat', inLeaf: true })).not.toMatch(/in leaf/);
  });

  it('is never told more exactly than the table knows', () => {
    expect([1.2, 4.4, 23, 900].map((ratio) => leadWords(ratio, 'redMaple'))).toEqual([
      'hardly more likely than red maple',
      'about 4 times as likely as red maple',
      'about 25 times as likely as red maple',
      'far more likely than red maple'
    ]);
    expect([9, 2, 1, 0.4, 0.1].map(ratioWords)).toEqual([
      'speaks strongly for it',
      'speaks for it',
      'says little',
      'speaks against it',
      'speaks strongly against it'
    ]);
    expect([-9, 1, 9].map(budBreakWords).join()).toMatch(/9 days before.*pull.*with sugar.*9 days after/);
  });

  it('says whether it may be tapped, and an unsettled tree never', () => {
    expect(allowedWords('settled', speciesById('sugarMaple').sap)).toMatch(/sweet/);
    expect(allowedWords('lookAgain', null)).toMatch(/Do not drill/);
    expect(allowedWords('notMaple', null)).toMatch(/untapped/);
  });
});

describe('a reading that does not fit', () => {
  const read = (dbhMm: number, year = 2026) => ({ dbhMm, year, method: 'girthTape' as const });
  it('is asked about with what it looks like', () => {
    const asked = (now: number, last: number) => questionWords(questionReading(read(now), read(last, 2024))!);
    expect(asked(942, 300)).toBe(
      'It is about three times the tree’s other readings: this looks like the girth, written down as diameter.'
    );
    expect(asked(118, 300)).toMatch(/smaller .* 2\.5: this looks like inches/);
    expect(asked(200, 300)).toMatch(/shrunk/);
    expect(asked(420, 300)).toMatch(/No maple grows that fast/);
    expect(questionWords(questionReading(read(1800), null)!)).toMatch(
      /^No maple is that thick: this looks like the girth/
    );
    expect(questionWords(questionReading(read(9), null)!)).toMatch(/thinner than a thumb/);
    expect(questionWords(questionReading(read(120), null, [], { tapped: true })!)).toMatch(/^Nobody taps so thin/);
  });
});

describe('the points of a crop tree', () => {
  it('are told with what was seen', () => {
    expect(
      cropPartWords([
        { of: 'species', sweet: true, points: 25, most: 25 },
        { of: 'trunk', fault: 'includedFork', points: 6, most: 15 },
        { of: 'closing', stressed: false, openYears: 1, points: 3, most: 5 }
      ])
    ).toBe('sweet maple 25 of 25, a fork with bark grown in 6 of 15 and a hole open after 1 year 3 of 5');
    expect(barredWords({ why: 'hazard', hazard: 'conks' })).toMatch(/rotten inside/);
  });
});

describe('the plan of a trunk', () => {
  const record = { on: '2027-03-04', news: [], saves: null } as unknown as RotationRecord;

  it('says since when it is so, and why it was changed or left', () => {
    const said = (more: Partial<RotationRecord>, since: string | null = '2026-11-20') =>
      rotationWords({ ...record, ...more }, since);
    expect(said({ verdict: 'first' }, null)).toBe('Planned on 2027-03-04.');
    expect(said({ verdict: 'carried' })).toBe('As planned on 2026-11-20.');
    expect(said({ verdict: 'holds', news: ['shavings'], saves: 0.0001 })).toBe(
      'Planned on 2026-11-20; looked at again on 2027-03-04 because the shavings were not pale: it stands.'
    );
    expect(said({ verdict: 'holds', news: ['count', 'snow'], saves: 0.0012 })).toContain(
      'because another count was decided and the snow changed: it stands, for another would save no more than 0.1 %'
    );
    expect(said({ verdict: 'changed', news: ['holes'], saves: 0.0143 })).toBe(
      'Changed on 2027-03-04 because there are holes that were not planned; that saves 1.4 % of each hole’s path.'
    );
    expect(said({ verdict: 'changed', news: ['trunk'] })).toContain('what was planned there had to move');
  });
});

describe('the price of one hole more', () => {
  const sap = (holes: number) => `${Math.round(38 * holes)} l`;

  it('weighs the dearest of its taps', () => {
    const sap = (holes: number) => `${Math.round(38 * holes)} l`;
    expect(dearWords({ now: 0.95, later: 0.4 }, 2, 40, sap)).toBe(
      'the dearest of its two taps brings about 36 l this spring and takes about 15 l from the 40 seasons after it.'
    );
    expect(dearWords({ now: 1, later: 0.01 }, 1, 40, sap)).toMatch(/^its tap brings .* takes hardly any from/);
  });

  it('is told in sap, now and later, and weighed', () => {
    expect(priceWords({ now: 1, later: 0.01 }, 1, 40, sap)).toBe(
      'Beyond one tap: about 38 l more sap this spring, and hardly any less from the holes of the 40 seasons after it. Its stain costs next to nothing.'
    );
    expect(priceWords({ now: 0.9, later: 0.2 }, 1, 40, sap)).toMatch(/about 8 l less .* takes part of it back/);
    expect(priceWords({ now: 0.9, later: 0.6 }, 2, 40, sap)).toContain('more than half');
    expect(priceWords({ now: 0.5, later: 0.6 }, 2, 40, sap)).toContain('costs more than it brings');
    expect(priceWords(null, 2, 40, sap)).toBe('There is no room for more than two taps this season.');
  });
});
