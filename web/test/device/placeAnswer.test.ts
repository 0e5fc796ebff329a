import { describe, expect, it } from 'vitest';

import type { BushState } from '../../src/lib/client/bush.svelte.ts';
import { preferences } from '../../src/lib/client/preferences.svelte.ts';
import { PlaceAnswer } from '../../src/lib/tree/placeAnswer.svelte.ts';
import { fromOrigin } from '../../src/lib/words/fromOrigin.ts';

/* Where a tree stands, as it is typed in the woods: each way, what it is worth, and what is said of half an answer. */

const row = (tag: string, eastM: number | null, northM: number | null, positionQuality: string | null) => ({
  tag,
  eastM,
  northM,
  positionQuality
});
const bush = (origin: { lat: number; lon: number } | null = { lat: 46.5, lon: -40 }) =>
  ({
    rows: [row('12', 100, 50, 'surveyed'), row('13', 0, 0, 'phone'), row('14', null, null, null)],
    bushRecords: [{ kind: 'plot', name: 'B', centre: { eastM: -20, northM: 5 } }],
    overview: { bush: { origin } }
  }) as unknown as BushState;
preferences.units = 'metric';

const from = (anchor: string, bearing: string, distance: string) => {
  const answer = new PlaceAnswer(bush(), anchor);
  Object.assign(answer, { bearing, distance });
  return answer;
};

describe('from a mark, by bearing and distance', () => {
  // Bearings run clockwise from north: common practice.
  it.each([
    ['0', 100, 60],
    ['90°', 110, 50],
    ['180', 100, 40],
    ['270', 90, 50],
    ['36,87', 106, 58]
  ])('goes %s from tree 12 to %s east and %s north', (bearing, eastM, northM) => {
    const { place } = from('12', bearing, '10 m');
    expect(place).toMatchObject({ eastM, northM, quality: 'paced' });
    expect(place!.asTaken).toContain('from 12');
  });

  it('is known no better than the mark it is measured from', () => {
    const answer = from('13', '90', '4');
    answer.quality = 'surveyed';
    expect(answer.place!.quality).toBe('phone');
  });

  it('may start at the centre of a plot, under either name', () => {
    for (const name of ['b', 'plot B']) expect(from(name, '90', '5').place).toMatchObject({ eastM: -15, northM: 5 });
  });

  it.each([
    ['14', '90', '4', 'Tree 14 has no place itself.'],
    ['99', '90', '4', 'Measure from a tree or plot that has a place.'],
    ['12', '361', '4', 'from 0 to 360'],
    ['12', 'north', '4', 'from 0 to 360'],
    ['12', '90', '900', 'too far to tape'],
    ['12', '90', 'four', 'four']
  ])('says what is wrong with %s, %s, %s', (anchor, bearing, distance, says) => {
    const answer = from(anchor, bearing, distance);
    expect(answer.place).toBeNull();
    expect(answer.problem).toContain(says);
  });

  it('asks for nothing before anything is typed, and finds no fault with half of it', () => {
    const said = ({ place, problem, wants }: PlaceAnswer) => [place, problem, wants];
    expect(said(from('12', '', ' '))).toEqual([null, null, null]);
    expect(said(from('12', '', '4'))).toEqual([null, null, 'And which way?']);
    expect(said(from('12', '90', ''))).toEqual([null, null, 'And how far away?']);
  });
});

describe('other ways', () => {
  const given = (way: PlaceAnswer['way'], first: string, second: string, of = bush()) => {
    const answer = new PlaceAnswer(of);
    Object.assign(answer, { way, first, second });
    return answer;
  };

  it('reads metres from the origin, and feet where they are written', () => {
    expect(given('metres', '12.5', '-40').place).toMatchObject({ eastM: 12.5, northM: -40 });
    expect(given('metres', '100 ft', '0').place!.eastM).toBeCloseTo(30.48);
    expect(given('metres', '0', '−7').place).toMatchObject({ eastM: 0, northM: -7 });
    expect(given('metres', '12.5w', '40 m S').place).toMatchObject({ eastM: -12.5, northM: -40 });
    expect(given('metres', '12.5 E.', '40 ft north').place).toMatchObject({ eastM: 12.5, northM: 12.19 });
    expect(given('metres', '12.5 north', '1').problem).toContain('12.5 m, 41 ft');
  });

  it('says each way that it is', () => {
    expect(fromOrigin({ eastM: -12.5, northM: 30 })).toBe('12.5 m west, 30.0 m north');
    expect(fromOrigin({ eastM: 0, northM: -0.04 })).toBe('0.0 m east, 0.0 m north');
  });

  it.each([
    ['metres', '12.5', '', 'And how far north?'],
    ['metres', '', '3', 'And how far east?'],
    ['degrees', '46', '', 'And the longitude?'],
    ['degrees', '', '-40', 'And the latitude?']
  ] as const)('asks for the rest of %s %s, %s', (way, first, second, asks) => {
    const { problem, wants } = given(way, first, second);
    expect([problem, wants]).toEqual([null, asks]);
  });

  it('reads degrees, a minute of latitude being a nautical mile, and keeps them as they were written', () => {
    const { place, degrees } = given('degrees', '46,516667', '-40');
    // 1852 m by definition of the nautical mile; the earth's flattening moves it by a few metres at this latitude
    expect(Math.abs(place!.northM - 1852)).toBeLessThan(5);
    expect(place!.eastM).toBeCloseTo(0);
    expect(place!.asTaken).toBe('46,516667, -40');
    expect(degrees!.lat).toBeCloseTo(46.516667);
  });

  it.each([
    ['91', '0', 'degrees with decimals'],
    ['46°30′', '-40', 'degrees with decimals'],
    ['10', '-40', 'more than 100 km']
  ])('says what is wrong with %s, %s degrees', (first, second, says) => {
    expect(given('degrees', first, second).problem).toContain(says);
  });

  it('needs to know where the bush lies for degrees, and not for metres', () => {
    expect(given('degrees', '46.5', '-40', bush(null)).problem).toContain('where on earth');
    expect(given('metres', '1', '2', bush(null)).place).toMatchObject({ eastM: 1, northM: 2 });
  });

  it('takes the spot that was tapped, until another way is chosen', () => {
    const answer = new PlaceAnswer(bush(), '12', () => ({ eastM: 3.14159, northM: 2 }));
    expect(answer.place).toMatchObject({ eastM: 3.14, northM: 2, asTaken: 'tapped on the map' });
    answer.way = 'from';
    expect(answer.place).toBeNull();
  });
});
