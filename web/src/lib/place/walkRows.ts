/** A stretch of the walk that one helper takes: trees of one stand, one after another, on one page. */
export interface WalkRow<L> {
  readonly standId: string | null;
  readonly lines: readonly L[];
  readonly holes: number;
}

/** Holes on a page: as many as fit, with room to write. */
const MAX_HOLES = 18;

/**
 * Cuts a round into rows, stand by stand, about as long as each other. The holes of a tree stay together.
 * @param lines in walking order
 */
export function walkRows<
  L extends { readonly row: { readonly standId: string | null }; readonly open: readonly unknown[] }
>(lines: readonly L[], mostHoles = MAX_HOLES): WalkRow<L>[] {
  const stands: L[][] = [];
  for (const line of lines) {
    const last = stands.at(-1);
    if (last && last[0]!.row.standId === line.row.standId) last.push(line);
    else stands.push([line]);
  }
  return stands.flatMap((stand) => {
    const all = holesOn(stand);
    const most = Math.ceil(all / Math.ceil(all / mostHoles));
    const rows: L[][] = [[]];
    for (const line of stand) {
      const row = rows.at(-1)!;
      if (row.length > 0 && holesOn(row) + line.open.length > most) rows.push([line]);
      else row.push(line);
    }
    return rows.map((row) => ({ standId: stand[0]!.row.standId, lines: row, holes: holesOn(row) }));
  });
}

function holesOn(lines: readonly { readonly open: readonly unknown[] }[]): number {
  return lines.reduce((sum, { open }) => sum + open.length, 0);
}
