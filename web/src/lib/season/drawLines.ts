import { crossingsOn, holdsLevels, pipeLinesIn } from '@baumkin/core/bush';
import type { StatedLine } from '@baumkin/core/exchange';
import { USUAL_DROP_MM, USUAL_PIPE } from '@baumkin/core/lines';
import { tagKey, type PipeLineRecord } from '@baumkin/core/records';

import type { BushState } from '$lib/client/bush.svelte.ts';

/**
 * Writes lines of a file into the book: anew where there is one of that name, and each after the line of the file that it runs into.
 * Drops of trees that are not in the book are left out.
 */
export async function drawLines(bush: BushState, lines: readonly StatedLine[]): Promise<PipeLineRecord[]> {
  const known = new Map(pipeLinesIn(bush.bushRecords).map((line) => [line.name, line]));
  const places = new Map(
    bush.bushRecords.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.name, record.id] as const] : []))
  );
  const byTag = new Map(bush.rows.map(({ tag, id }) => [tagKey(tag), id]));
  const usualMm = bush.overview?.bush.settings.dropMm ?? USUAL_DROP_MM;
  const ids = new Map([...known].map(([name, { id }]) => [name, id]));

  const draw = (line: StatedLine) => {
    const before = known.get(line.name);
    const drops = line.drops.flatMap(({ tag, dropMm }) => {
      const treeId = byTag.get(tagKey(tag));
      return treeId ? [{ treeId, dropMm: dropMm ?? usualMm }] : [];
    });
    const into = line.into === null ? undefined : ids.get(line.into);
    const place = line.into === null ? undefined : places.get(line.into);
    const foot = into ? { intoId: into, placeId: null } : place ? { intoId: null, placeId: place } : null;
    return bush.recordOfBush({
      kind: 'pipeLine',
      name: line.name,
      use: line.use,
      points: line.points.map(([east, north]): [number, number] => [east, north]),
      boreMm: line.boreMm,
      held: line.held,
      spanM: before?.spanM ?? USUAL_PIPE[line.use].spanM,
      runsSince:
        before && !holdsLevels(before.points, line.points) ? new Date().toISOString() : (before?.runsSince ?? null),
      crossings: line.crossings ?? crossingsOn(line.points, before?.crossings ?? []),
      staysUp: before?.staysUp ?? line.held === 'wire',
      note: before?.note ?? '',
      // What a file does not say stays as it was drawn here.
      ...(foot ?? { intoId: before?.intoId ?? null, placeId: before?.placeId ?? null }),
      drops: drops.length > 0 ? drops : (before?.drops ?? []),
      ...(before ? { correctsId: before.id } : {})
    }) as Promise<PipeLineRecord>;
  };

  const own = new Set(lines.map(({ name }) => name));
  const written: PipeLineRecord[] = [];
  const done = new Set<string>();
  let waiting = [...lines];
  while (waiting.length > 0) {
    const ready = waiting.filter(({ into }) => into === null || !own.has(into) || done.has(into));
    // Lines that run in a circle are begun somewhere.
    for (const line of ready.length > 0 ? ready : waiting.slice(0, 1)) {
      const record = await draw(line);
      ids.set(line.name, record.id);
      done.add(line.name);
      written.push(record);
    }
    waiting = waiting.filter(({ name }) => !done.has(name));
  }
  return written;
}
