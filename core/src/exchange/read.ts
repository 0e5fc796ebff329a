import { readTable, type ReadOptions } from './csvIn.ts';
import { readGeoJson } from './geojson.ts';
import { readGpx } from './gpx.ts';
import type { StatementFile } from './statement.ts';

export type FileFormat = 'table' | 'gpx' | 'geojson' | 'archive';

/** What a file is, by how it begins: names of files say little. */
export function formatOf(text: string): FileFormat {
  const start = text
    .replace(/^\uFEFF/, '')
    .trimStart()
    .slice(0, 400);
  if (start.startsWith('<')) return 'gpx';
  if (!start.startsWith('{')) return 'table';
  return /"format"\s*:\s*"baumkin-bush"/.test(start) ? 'archive' : 'geojson';
}

/** Reads a table, a GPX file or GeoJSON, whichever it is. @throws UnreadableFile */
export function readStatements(text: string, options: ReadOptions): StatementFile {
  const format = formatOf(text);
  return format === 'gpx'
    ? readGpx(text, options)
    : format === 'table'
      ? readTable(text, options)
      : readGeoJson(text, options);
}
