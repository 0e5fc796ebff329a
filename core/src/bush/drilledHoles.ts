import { effectiveRecords, type Shavings, type Taphole, type WorkRecord } from '../records/index.ts';

/** A hole, and what was said of the wood that came out of it. */
export interface DrilledHole {
  readonly hole: Taphole;
  /** what its shavings looked like, even where it stayed dry afterwards; null where nobody said */
  readonly shavings: (Shavings & { readonly seen: Exclude<Shavings['seen'], 'dry'> }) | null;
}

/** The holes of a tree with what their shavings showed. @param records of the tree, in any order */
export function drilledHoles(records: readonly WorkRecord[]): DrilledHole[] {
  const standing = effectiveRecords(records);
  const showed = (each: WorkRecord): each is NonNullable<DrilledHole['shavings']> =>
    each.kind === 'shavings' && each.seen !== 'dry';
  const last = new Map(standing.filter(showed).map((each) => [each.tapholeId, each]));
  return standing
    .filter((record): record is Taphole => record.kind === 'taphole')
    .map((hole) => ({ hole, shavings: last.get(hole.id) ?? null }));
}
