import { fromLocalMetres, type LatLon } from '../geometry/index.ts';

import { speciesById, type SpeciesId } from '../identify/index.ts';
import { readRows, type ReadOptions } from './csvIn.ts';
import { speciesByName } from './species.ts';
import { MAX_ROWS, UnreadableFile, type StatementFile } from './statement.ts';
import { CarefulXml } from './xml.ts';

/**
 * GPX 1.1 (Topografix schema): trees as waypoints. The waypoint's name is the tag, its type the species, its time the
 * day on which the place was taken.
 */
const NAMESPACE = 'http://www.topografix.com/GPX/1/1';
const HEADING = ['tag', 'species', 'lat', 'lon', 'position_quality'] as const;

/**
 * Reads the waypoints of a GPX file. Tracks and routes are passed over. A document type is refused: GPX needs none, and
 * its entities could grow without end.
 * @throws UnreadableFile
 */
export function readGpx(text: string, options: ReadOptions): StatementFile {
  const rows: { cells: string[]; line: number }[] = [];
  const ignored = new Set<string>();
  let isGpx = false;
  let point: { cells: string[]; line: number; at: number } | null = null;
  const xml = new CarefulXml(
    {
      begins(name, { lat = '', lon = '' }) {
        const { depth } = xml;
        if (depth === 1) isGpx = name === 'gpx';
        if (!isGpx) throw new UnreadableFile('This XML file is not a GPX file.');
        if (name === 'wpt' && depth === 2) {
          if (rows.length >= MAX_ROWS)
            throw new UnreadableFile(`The file has more than ${MAX_ROWS} waypoints. Split it.`);
          point = { cells: ['', '', lat.trim(), lon.trim(), 'phone'], line: rows.length + 1, at: depth };
        } else if (depth === 2 && (name === 'trk' || name === 'rte')) ignored.add(name === 'trk' ? 'tracks' : 'routes');
      },
      ends(name, content) {
        const { depth } = xml;
        if (point && depth === point.at) {
          rows.push(point);
          point = null;
        } else if (point && depth === point.at + 1) {
          if (name === 'name') point.cells[0] = content;
          // Other programs write things of their own here; only a tree's species is taken.
          if (name === 'type') point.cells[1] = speciesOrNothing(content);
        }
      }
    },
    'a GPX file'
  );
  xml.read(text);
  if (!isGpx) throw new UnreadableFile('There is nothing in this file.');
  const file = readRows(HEADING, rows, options);
  return { ...file, ignoredColumns: [...ignored], table: null };
}

function speciesOrNothing(written: string): string {
  return /^maple$/i.test(written) || speciesByName(written) ? written : '';
}

/** A tree on its way into a GPX file. */
export interface Waypoint {
  readonly tag: string;
  readonly species: SpeciesId | null;
  readonly eastM: number;
  readonly northM: number;
  /** a line for people: size, taps */
  readonly about: string;
}

/** Trees as waypoints in the order given, so that a receiver can lead from one to the next. */
export function writeGpx(name: string, trees: readonly Waypoint[], origin: LatLon): string {
  const points = trees.map((tree) => {
    const { lat, lon } = fromLocalMetres(origin, tree);
    return [
      `  <wpt lat="${lat.toFixed(8)}" lon="${lon.toFixed(8)}">`,
      `    <name>${escape(tree.tag)}</name>`,
      ...(tree.about === '' ? [] : [`    <desc>${escape(tree.about)}</desc>`]),
      ...(tree.species === null ? [] : [`    <type>${escape(speciesById(tree.species).name)}</type>`]),
      '  </wpt>'
    ].join('\n');
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<gpx version="1.1" creator="Baumkin" xmlns="${NAMESPACE}">`,
    `  <metadata><name>${escape(name)}</name></metadata>`,
    ...points,
    '</gpx>\n'
  ].join('\n');
}

/** Text that XML takes: marks escaped, control characters that it forbids left out. */
function escape(text: string): string {
  return (
    text
      // eslint-disable-next-line no-control-regex
      .replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
      .replace(/[<>&"']/g, (sign) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;', "'": '&apos;' })[sign]!)
  );
}
