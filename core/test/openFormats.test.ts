import { check } from '@placemarkio/check-geojson';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { toLocalMetres } from '../src/geometry/index.ts';
import { readGeoJson, readGpx, UnreadableFile, writeGeoJson, writeGpx } from '../src/exchange/index.ts';
import type { SPECIES } from '../src/identify/index.ts';
import { standSchema, type Stand } from '../src/records/index.ts';
import { options, origin, id, tag, species } from './openFormatsSupport.ts';

const metres = fc.integer({ min: -300_000, max: 300_000 }).map((cm) => cm / 100);

const treesDrawn = fc.uniqueArray(fc.record({ tag, species, eastM: metres, northM: metres }), {
  selector: (t) => t.tag.toLowerCase(),
  minLength: 1,
  maxLength: 8
});

const near = (back: { position: unknown }, eastM: number, northM: number) => {
  const place = toLocalMetres(origin, back.position as { lat: number; lon: number });
  // A hundred-millionth of a degree is 1.1 mm.
  expect(Math.hypot(place.eastM - eastM, place.northM - northM)).toBeLessThan(0.003);
};

describe('GPX 1.1', () => {
  it('waypoints that are written read back the same', () => {
    fc.assert(
      fc.property(treesDrawn, (trees) => {
        const text = writeGpx(
          'A & B',
          trees.map((t) => ({ ...t, about: 'x < y' })),
          origin
        );
        const { statements, bad } = readGpx(text, options);
        expect(bad).toEqual([]);
        expect(statements.map((s) => [s.tag, s.species])).toEqual(trees.map((t) => [t.tag, t.species]));
        statements.forEach((s, i) => near(s, trees[i]!.eastM, trees[i]!.northM));
        expect(statements.every((s) => s.position && 'lat' in s.position && s.position.quality === 'phone')).toBe(true);
      })
    );
  });

  it('reads the points of a receiver, passes tracks over, and names points without a name', () => {
    const file = readGpx(
      '<?xml version="1.0"?><gpx version="1.1"><wpt lat="46.5001" lon="-40.0002"><ele>12</ele><name>17</name><sym>Flag</sym></wpt>' +
        '<wpt lat="46.5" lon="-40"/><wpt lat="99" lon="0"><name>18</name></wpt><trk><trkseg><trkpt lat="1" lon="2"/></trkseg></trk></gpx>',
      options
    );
    expect(file.statements).toMatchObject([{ tag: '17', species: null, position: { lat: 46.5001, lon: -40.0002 } }]);
    expect(file.bad.map((row) => row.reason)).toEqual([
      expect.stringMatching(/no tag/),
      expect.stringMatching(/no place/)
    ]);
    expect(file.ignoredColumns).toEqual(['tracks']);
  });

  it('a bomb of entities, depths without end, other XML and broken XML get a plain answer', () => {
    const bomb =
      '<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><gpx><wpt lat="1" lon="1"><name>&b;</name></wpt></gpx>';
    expect(() => readGpx(bomb, options)).toThrow(/document type/);
    expect(() => readGpx(`<gpx>${'<a>'.repeat(100_000)}`, options)).toThrow(/nested/);
    expect(() => readGpx('<html><body/></html>', options)).toThrow(/not a GPX/);
    expect(() => readGpx('<gpx><wpt lat="1"', options)).toThrow(UnreadableFile);
    expect(() => readGpx('<gpx><wpt lat="1" lon="1"><name>&undefined;</name></wpt></gpx>', options)).toThrow(
      UnreadableFile
    );
  });
});

describe('GeoJSON (RFC 7946)', () => {
  const stand: Stand = standSchema.parse({
    id: id(1),
    name: 'Hill & Dale',
    purpose: 'mixed',
    areaHa: null,
    wetness: 'wet',
    outline: [
      [0, 0],
      [0, 100],
      [80, 100],
      [80, 0]
    ]
  });
  const point = (t: { tag: string; species: (typeof SPECIES)[number]['id']; eastM: number; northM: number }) => ({
    ...t,
    stand: 'Hill & Dale',
    diameterMm: 365,
    measuredOn: '2025-10-01',
    quality: 'surveyed' as const
  });

  it('trees and stands that are written read back the same', () => {
    fc.assert(
      fc.property(treesDrawn, (trees) => {
        const file = readGeoJson(writeGeoJson(trees.map(point), [stand], origin), options);
        expect(file.bad).toEqual([]);
        expect(file.stands).toMatchObject([{ name: stand.name, purpose: 'mixed', wetness: 'wet' }]);
        expect(file.stands[0]!.outline).toHaveLength(4);
        expect(
          file.statements.map((s) => [
            s.tag,
            s.species,
            s.stand,
            s.reading?.valueMm,
            s.reading?.on,
            s.position?.quality
          ])
        ).toEqual(trees.map((t) => [t.tag, t.species, stand.name, expect.closeTo(365, 6), '2025-10-01', 'surveyed']));
        file.statements.forEach((s, i) => near(s, trees[i]!.eastM, trees[i]!.northM));
      })
    );
  });

  it('is GeoJSON by an independent checker', () => {
    fc.assert(
      fc.property(treesDrawn, (trees) => {
        expect(() => check(writeGeoJson(trees.map(point), [stand], origin))).not.toThrow();
      })
    );
  });

  it('outer rings run counter-clockwise and close on themselves (RFC 7946, 3.1.6)', () => {
    const { features } = JSON.parse(writeGeoJson([], [stand], origin)) as {
      features: { geometry: { coordinates: [number, number][][] } }[];
    };
    const ring = features[0]!.geometry.coordinates[0]!;
    expect(ring[0]).toEqual(ring.at(-1));
    const twiceArea = ring.slice(1).reduce((sum, [x, y], i) => sum + (ring[i]![0] * y - x * ring[i]![1]), 0);
    expect(twiceArea).toBeGreaterThan(0);
  });

  it('names features that it cannot take', () => {
    const feature = (geometry: unknown, properties: unknown) => ({ type: 'Feature', geometry, properties });
    const file = readGeoJson(
      JSON.stringify({
        type: 'FeatureCollection',
        features: [
          feature(
            {
              type: 'LineString',
              coordinates: [
                [0, 0],
                [1, 1]
              ]
            },
            {}
          ),
          feature({ type: 'Point', coordinates: ['x', null] }, { tag: '1' }),
          feature(
            {
              type: 'Polygon',
              coordinates: [
                [
                  [0, 0],
                  [0, 1],
                  [1, 1],
                  [0, 0]
                ]
              ]
            },
            {}
          ),
          feature({ type: 'Point', coordinates: [-40, 46.5] }, { tag: '7', species: 'beech', colour: 'red' })
        ]
      }),
      options
    );
    expect(file.bad.map((row) => row.line)).toEqual([1, 2, 3]);
    expect(file.statements).toMatchObject([{ tag: '7', species: 'beech' }]);
    expect(() => readGeoJson('{"type":"Feature"}', options)).toThrow(/FeatureCollection/);
    expect(() => readGeoJson('{', options)).toThrow(/JSON/);
  });
});
