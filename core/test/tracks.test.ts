import { describe, expect, it } from 'vitest';

import { judgeLines } from '../src/bush/index.ts';
import { heightsAlong, readLinesGeoJson, readTrack, UnreadableFile, writeLinesGeoJson } from '../src/exchange/index.ts';
import { fromLocalMetres, toLocalMetres } from '../src/geometry/index.ts';
import { id, levelled, pipe, told, type Told } from './seasonBush.ts';

const ORIGIN = { lat: 47, lon: 11 };
const at = (eastM: number, northM: number) => fromLocalMetres(ORIGIN, { eastM, northM });
const trkpt = (eastM: number, northM: number, ele: string) => {
  const { lat, lon } = at(eastM, northM);
  return `<trkpt lat="${lat}" lon="${lon}">${ele}</trkpt>`;
};
const gpx = (...points: string[]) =>
  `<?xml version="1.0"?><gpx version="1.1"><trk><name>line</name><trkseg>${points.join('')}</trkseg></trk></gpx>`;

describe('a track that was walked along a line', () => {
  it('is read with its heights, by the element that GPX 1.1 has for them', () => {
    const points = readTrack(gpx(trkpt(0, 0, '<ele>412.5</ele>'), trkpt(10, 0, ''), trkpt(20, 0, '<ele>none</ele>')));
    expect(points.map(({ heightM }) => heightM)).toEqual([412.5, null, null]);
    expect(points[0]!.lat).toBeCloseTo(47, 9);
  });

  it('is read from points and lines of GeoJSON, whose third number is the height (RFC 7946, 3.1.1)', () => {
    const file = {
      type: 'FeatureCollection',
      features: [
        {
          type: 'Feature',
          properties: {},
          geometry: {
            type: 'LineString',
            coordinates: [
              [11, 47, 400],
              [11.001, 47, 398]
            ]
          }
        },
        { type: 'Feature', properties: {}, geometry: { type: 'Point', coordinates: [11.002, 47] } },
        { type: 'Feature', properties: {}, geometry: { type: 'Polygon', coordinates: [] } }
      ]
    };
    expect(readTrack(JSON.stringify(file))).toEqual([
      { lat: 47, lon: 11, heightM: 400 },
      { lat: 47, lon: 11.001, heightM: 398 },
      { lat: 47, lon: 11.002, heightM: null }
    ]);
  });

  it('says what is wrong with a file that is none', () => {
    const said = (text: string) => {
      try {
        return readTrack(text).length;
      } catch (error) {
        expect(error).toBeInstanceOf(UnreadableFile);
        return (error as Error).message;
      }
    };
    expect(said('tag,height')).toContain('neither GPX nor GeoJSON');
    expect(said('{"type":"Nothing"}')).toContain('no place');
    expect(said('[1]')).toContain('FeatureCollection');
    expect(said('<gpx><trk>')).toContain('not well-formed');
    expect(said('<!DOCTYPE gpx [<!ENTITY a "b">]><gpx/>')).toContain('document type');
    expect(said(gpx('<trkpt lat="here" lon="11"/>'))).toContain('no place');
    expect(said(gpx('<trkpt lat="147" lon="11"/>'))).toContain('no place');
  });

  it('gives heights where it runs along the line, and says what was left out', () => {
    const course = [
      [0, 0],
      [60, 0],
      [60, 40]
    ] as const;
    const track = readTrack(
      gpx(
        trkpt(0.5, 3, '<ele>410</ele>'),
        // Two of one place: one height.
        trkpt(30.1, -4, '<ele>408</ele>'),
        trkpt(30.6, -4, '<ele>409</ele>'),
        trkpt(62, 20, '<ele>406</ele>'),
        trkpt(61, 30, ''),
        trkpt(200, 0, '<ele>300</ele>')
      )
    );
    const { heights, far, flat } = heightsAlong(track, course, ORIGIN);
    expect(heights.map(({ alongM }) => Math.round(alongM))).toEqual([1, 30, 80]);
    expect(heights.map(({ heightM }) => heightM)).toEqual([410, 409, 406]);
    expect([far, flat]).toEqual([1, 1]);
  });

  it('gives no more heights than a record holds', () => {
    const long = Array.from({ length: 3000 }, (_, i) => ({ ...at(i, 0), heightM: 500 - i / 10 }));
    expect(
      heightsAlong(
        long,
        [
          [0, 0],
          [2999, 0]
        ],
        ORIGIN
      ).heights.length
    ).toBeLessThanOrEqual(500);
  });
});

describe('lines as GeoJSON', () => {
  it('lie where they were drawn, with what is known of them', () => {
    const line = told({
      kind: 'pipeLine',
      on: '2027-02-01',
      name: 'Main',
      use: 'main',
      boreMm: 19.1,
      held: 'wire',
      spanM: 4,
      points: [
        [0, 0],
        [30, 40]
      ],
      drops: [{ treeId: id(1), dropMm: 800 }]
    } as Told);
    const level = levelled(line.id, [
      [0, 10],
      [50, 12]
    ]);
    const written = JSON.parse(writeLinesGeoJson(judgeLines([line, level], []), new Map([[id(1), '44']]), ORIGIN)) as {
      features: { geometry: { coordinates: [number, number][] }; properties: Record<string, unknown> }[];
    };
    const [main] = written.features;
    const [lon, lat] = main!.geometry.coordinates[1]!;
    const { eastM, northM } = toLocalMetres(ORIGIN, { lat, lon });
    expect([eastM, northM].map((m) => Number(m.toFixed(2)))).toEqual([30, 40]);
    expect(main!.properties).toMatchObject({ name: 'Main', length_m: 50, trees: ['44'], drops_mm: [800] });
    // It rises two metres, and that is sure.
    expect(main!.properties.lies_lower).toMatchObject([{ by_m: 0 }, { along_m: 50 }]);
    expect((main!.properties.lies_lower as { by_m: number }[])[1]!.by_m).toBeCloseTo(-2, 1);
    expect(main!.properties.faults).toMatchObject([{ fault: 'dip', surety: 'sure', from_m: 0, to_m: 50 }]);
    // What was written out can be brought in as a track.
    expect(readTrack(JSON.stringify(written))).toHaveLength(2);
  });
});

describe('lines out of GeoJSON', () => {
  const feature = (points: readonly (readonly [number, number])[], properties: object | null = null) => ({
    type: 'Feature',
    properties,
    geometry: {
      type: 'LineString',
      coordinates: points.map(([east, north]) => {
        const { lat, lon } = at(east, north);
        return [lon, lat, 300];
      })
    }
  });
  const file = (...features: object[]) => JSON.stringify({ type: 'FeatureCollection', features });
  const read = (...features: object[]) => readLinesGeoJson(file(...features), ORIGIN);

  it('are what was written out: drawn, made of, running into and hung with the same', () => {
    const main = pipe('Main', {
      use: 'main',
      boreMm: 25.4,
      held: 'wire',
      placeId: id(800),
      crossings: [{ at: [40, 0], how: 'culvert', insulated: true }],
      points: [
        [0, 0],
        [90, 0]
      ]
    });
    const lateral = pipe('Left 1', {
      intoId: main.id,
      drops: [{ treeId: id(1), dropMm: 800 }],
      points: [
        [10, 20],
        [10, 0]
      ]
    });
    const names = new Map([
      [id(1), '44'],
      [id(800), 'Tank']
    ]);
    const { lines, left, far } = readLinesGeoJson(
      writeLinesGeoJson(judgeLines([main, lateral], []), names, ORIGIN),
      ORIGIN
    );
    expect([left, far]).toEqual([0, 0]);
    expect(lines).toMatchObject([
      {
        name: 'Left 1',
        use: 'lateral',
        into: 'Main',
        points: [...lateral.points],
        drops: [{ tag: '44', dropMm: 800 }]
      },
      {
        name: 'Main',
        use: 'main',
        boreMm: 25.4,
        held: 'wire',
        into: 'Tank',
        points: [...main.points],
        lengthM: 90,
        crossings: [...main.crossings]
      }
    ]);
  });

  it('are taken as is usual where a file says nothing, and run into what their feet lie beside', () => {
    const { lines } = read(
      feature(
        [
          [0, 0],
          [90, 0]
        ],
        { name: 'A', use: 'gutter', bore_mm: 'wide' }
      ),
      feature(
        [
          [40, 20],
          [40, 2]
        ],
        { name: 'A', trees: [7, '8b'] }
      ),
      feature([
        [88, 30],
        [89, 1]
      ]),
      feature([
        [0, 50],
        [20, 50]
      ])
    );
    expect(lines).toMatchObject([
      { name: 'A', use: 'main', boreMm: 19.1, held: 'wire', into: null },
      {
        name: 'A 2',
        use: 'lateral',
        boreMm: 7.9,
        held: 'hand',
        into: 'A',
        drops: [{ tag: '7', dropMm: null }, { tag: '8b' }]
      },
      // It ends where the other does: at the same tank.
      { name: 'Line', into: null },
      { name: 'Line 2', into: null }
    ]);
  });

  it('say what of a line cannot be read, and lose nothing else of it', () => {
    const said = {
      name: 'A\u202Eb',
      use: 'gutter',
      bore_mm: 'wide',
      held: 'wire',
      trees: [7, { tag: 8 }],
      drops_mm: [800]
    };
    const { lines } = read(
      feature(
        [
          [0, 0],
          [90, 0]
        ],
        said
      ),
      feature(
        [
          [0, 9],
          [90, 9]
        ],
        { name: null, trees: [7], drops_mm: [800] }
      )
    );
    expect(lines).toMatchObject([
      { name: 'Line', use: 'main', boreMm: 19.1, held: 'wire', drops: [], unread: ['name', 'use', 'bore_mm', 'trees'] },
      { name: 'Line 2', drops: [{ tag: '7', dropMm: 800 }], unread: [] }
    ]);
  });

  it('leave out what is no line or lies elsewhere, and refuse a file without any', () => {
    const point = { type: 'Feature', properties: null, geometry: { type: 'Point', coordinates: [11, 47] } };
    const some = read(
      point,
      feature([
        [0, 0],
        [0.1, 0]
      ]),
      feature([
        [0, 0],
        [9, 0]
      ]),
      feature([
        [200_000, 0],
        [200_009, 0]
      ])
    );
    expect([some.lines.length, some.left, some.far]).toEqual([1, 2, 1]);
    for (const [wrong, why] of [
      ['lines', /not GeoJSON/],
      ['{"type":"Topology"}', /no collection/],
      [file(point), /no line in this file/],
      [
        file(
          feature([
            [200_000, 0],
            [200_009, 0]
          ])
        ),
        /near this bush/
      ],
      [file(...Array.from({ length: 1001 }, () => point)), /at most 1000/]
    ] as const)
      expect(() => readLinesGeoJson(wrong, ORIGIN)).toThrow(why);
    expect(() => readLinesGeoJson('null', ORIGIN)).toThrow(UnreadableFile);
  });
});
