import { toDiameter } from '@baumkin/core/measure';
import { deriveTree, seasonOf, speciesWord } from '@baumkin/core/records';
import {
  dataPackage,
  TABLES,
  writeGeoJson,
  writeGpx,
  writeTable,
  type Table,
  type TreeOut
} from '@baumkin/core/exchange';
import { strToU8, zipSync } from 'fflate';

import { archiveText } from './archive.ts';
import { standsOf, type BushAccess } from './bushes.ts';
import { recordsByTree } from './recordRows.ts';
import { treesOf } from './trees.ts';

type BushFile =
  | { readonly type: string; readonly body: string | Uint8Array<ArrayBuffer> | ReadableStream<Uint8Array> }
  | { readonly problem: string };

/**
 * One of the files that a bush can be taken out as.
 * @returns null for a name that is none; a problem where the bush lacks what the file needs
 */
export async function bushFile(
  bush: BushAccess,
  name: string,
  today: string,
  now = new Date()
): Promise<BushFile | null> {
  const table = TABLES.find((each) => `${each.name}.csv` === name);
  if (table) return { type: 'text/csv; charset=utf-8', body: tableOf(table, await treesOut(bush, today)) };
  switch (name) {
    case 'tables.zip': {
      const trees = await treesOut(bush, today);
      const files = TABLES.map((each) => [`${each.name}.csv`, strToU8(tableOf(each, trees))] as const);
      const descriptor = strToU8(JSON.stringify(dataPackage(bush.name, now.toISOString()), null, 2));
      const body = zipSync({ ...Object.fromEntries(files), 'datapackage.json': descriptor });
      return { type: 'application/zip', body: new Uint8Array(body) };
    }
    case 'archive.json':
      return { type: 'application/json', body: streamOf(archiveText(bush, now)) };
    case 'bush.geojson':
    case 'trees.gpx': {
      if (!bush.origin)
        return {
          problem:
            'This bush does not say where on earth it lies. Give its origin on the map page, and take the file then.'
        };
      const [trees, outlines] = await Promise.all([treesOut(bush, today), standsOf(bush.id)]);
      const placed = trees
        .filter(isStanding)
        .flatMap(({ tree, ...rest }) =>
          tree.eastM === null || tree.northM === null ? [] : [{ ...rest, tree, eastM: tree.eastM, northM: tree.northM }]
        );
      if (name === 'trees.gpx') {
        const points = placed.map(({ tree, state, eastM, northM }) => ({
          tag: tree.tag,
          species: speciesWord(state.determination) === '' ? null : (state.determination?.species ?? null),
          eastM,
          northM,
          about: state.dbhMm === null ? '' : `${(state.dbhMm / 10).toFixed(1)} cm thick`
        }));
        return { type: 'application/gpx+xml', body: writeGpx(bush.name, points, bush.origin) };
      }
      const points = placed.map(({ tree, stand, state, eastM, northM }) => ({
        tag: tree.tag,
        stand,
        species: speciesWord(state.determination) === '' ? null : (state.determination?.species ?? null),
        diameterMm: state.lastReading ? toDiameter(state.lastReading.valueMm, state.lastReading.quantity) : null,
        measuredOn: state.lastReading?.on ?? null,
        quality: tree.positionQuality,
        eastM,
        northM
      }));
      return { type: 'application/geo+json', body: writeGeoJson(points, outlines, bush.origin) };
    }
    default:
      return null;
  }
}

/** Text as it comes, no faster than it is taken. */
export function streamOf(pieces: AsyncGenerator<string>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  return new ReadableStream({
    async pull(controller) {
      const { done, value } = await pieces.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
    async cancel() {
      await pieces.return(undefined);
    }
  });
}

/** What stands; the tables of work keep the trees that were felled. */
const tableOf = (table: Table, trees: readonly TreeOut[]) =>
  writeTable(table, table.name === 'trees' ? trees.filter(isStanding) : trees);

const isStanding = ({ state }: TreeOut) => state.cut === null;

async function treesOut(bush: BushAccess, today: string): Promise<TreeOut[]> {
  const [trees, stands, records] = await Promise.all([treesOf(bush.id), standsOf(bush.id), recordsByTree(bush.id)]);
  const names = new Map(stands.map((stand) => [stand.id, stand.name]));
  return trees.map((tree) => ({
    tree,
    stand: tree.standId ? (names.get(tree.standId) ?? null) : null,
    state: deriveTree(records.get(tree.id) ?? [], { season: seasonOf(today), today })
  }));
}
