import type { TreeRow } from '@baumkin/core/records';

/** Trees by what somebody typed: tags, and runs of numbers with a dash between, as they stand on the walk. */
export function treesNamed(typed: string, rows: readonly TreeRow[]): { rows: TreeRow[]; unknown: string[] } {
  const byTag = new Map(rows.map((row) => [row.tag.toLowerCase(), row]));
  const found = new Set<TreeRow>();
  const unknown: string[] = [];
  for (const part of typed.split(/[,;\n]+/).map((each) => each.trim())) {
    if (part === '') continue;
    const own = byTag.get(part.toLowerCase());
    const run = /^(\d+)\s*[-–]\s*(\d+)$/.exec(part);
    if (own) found.add(own);
    else if (run) {
      const [from, until] = [Number(run[1]), Number(run[2])];
      const within = rows.filter(({ tag }) => /^\d+$/.test(tag) && Number(tag) >= from && Number(tag) <= until);
      for (const row of within) found.add(row);
      if (within.length === 0) unknown.push(part);
    } else unknown.push(part);
  }
  return { rows: [...found], unknown };
}
