import { wrapDegrees } from '../math/index.ts';
import { toDiameter } from '../measure/index.ts';
import { declaration, type WorkRecord } from '../records/index.ts';
import type { ImportOptions } from './plan.ts';
import type { Statement } from './statement.ts';

/* What of a statement about a tree is new to the book, as records. */

/** Readings of one day that differ by less are the same reading, mm of diameter. */
const SAME_READING_MM = 0.6;
/** Holes of one season this near each other are the same hole, degrees and mm. */
const SAME_HOLE = { bearingDeg: 1, heightMm: 11 };

/** Everything that a record has besides what it tells, for a tree. */
export function envelopeOf(treeId: string, { makeId, now }: ImportOptions) {
  return (on: string) => ({ id: makeId(), treeId, on, recordedAt: now, correctsId: null, withdrawn: false });
}

/** The last that was settled of a tree's species. */
export function settledIn(has: readonly WorkRecord[]): Extract<WorkRecord, { kind: 'determination' }> | null {
  const last = has.flatMap((r) => (r.kind === 'determination' ? [r] : [])).at(-1);
  return last && (last.verdict === 'settled' || last.verdict === 'notMaple') && last.species ? last : null;
}

/** Does a statement say a species that the book does not have from it already? */
export function isNewSpecies({ species, mapleOpen, determinedOn }: Statement, has: readonly WorkRecord[]): boolean {
  if (!species && !mapleOpen) return false;
  const said = declaration(species, '');
  return !has.some(
    (r) =>
      r.kind === 'determination' &&
      r.verdict === said.verdict &&
      r.species === said.species &&
      (determinedOn === null || determinedOn === r.on)
  );
}

export function newDetermination(
  statement: Statement,
  treeId: string,
  has: readonly WorkRecord[],
  options: ImportOptions
): WorkRecord[] {
  if (!isNewSpecies(statement, has)) return [];
  const { species, determinedOn, reading } = statement;
  return [
    {
      ...envelopeOf(treeId, options)(determinedOn ?? reading?.on ?? options.today),
      ...declaration(species, 'taken from an imported file')
    }
  ];
}

export function newReading(
  { reading }: Statement,
  treeId: string,
  has: readonly WorkRecord[],
  options: ImportOptions
): WorkRecord | 'contradicts' | null {
  if (!reading) return null;
  const dbhMm = toDiameter(reading.valueMm, reading.quantity);
  const sameDay = has.filter((r) => r.kind === 'reading' && r.on === reading.on);
  if (
    sameDay.some((r) => r.kind === 'reading' && Math.abs(toDiameter(r.valueMm, r.quantity) - dbhMm) < SAME_READING_MM)
  )
    return null;
  if (sameDay.length > 0) return 'contradicts';
  const { on, quantity, valueMm, asWritten, method, heightMm } = reading;
  return {
    ...envelopeOf(treeId, options)(on),
    kind: 'reading',
    quantity,
    valueMm,
    asWritten,
    method,
    heightMm: heightMm ?? options.settings.breastHeightMm,
    confirmed: false,
    note: ''
  };
}

export function newHoles(
  { holes }: Statement,
  treeId: string,
  has: readonly WorkRecord[],
  options: ImportOptions
): WorkRecord[] {
  const { today, settings } = options;
  return holes.flatMap((hole): WorkRecord[] => {
    const known = has.some(
      (r) =>
        r.kind === 'taphole' &&
        r.season === hole.season &&
        Math.abs(wrapDegrees(r.bearingDeg - hole.bearingDeg)) <= SAME_HOLE.bearingDeg &&
        Math.abs(r.heightMm - hole.heightMm) <= SAME_HOLE.heightMm
    );
    if (known) return [];
    const march = `${hole.season}-03-01`;
    return [
      {
        ...envelopeOf(treeId, options)(march <= today ? march : today),
        kind: 'taphole',
        season: hole.season,
        bearingDeg: hole.bearingDeg,
        heightMm: hole.heightMm,
        bitMm: hole.bitMm ?? settings.bitMm,
        depthMm: hole.depthMm ?? settings.depthMm,
        predictedClear: null,
        strategy: null
      }
    ];
  });
}

/** Notes of a row as remarks; what is noted already is not noted again. */
export function newRemarks(
  { notes, reading }: Statement,
  treeId: string,
  has: readonly WorkRecord[],
  options: ImportOptions
): WorkRecord[] {
  return notes
    .filter((text) => !has.some((r) => r.kind === 'remark' && r.text === text))
    .map((text): WorkRecord => ({
      ...envelopeOf(treeId, options)(reading?.on ?? options.told?.undatedOn ?? options.today),
      kind: 'remark',
      text
    }));
}
