import { UserFacingError } from '../errors/index.ts';
import type { SpeciesId } from '../identify/index.ts';
import type { MeasureMethod } from '../measure/index.ts';
import type { StandPurpose, Wetness } from '../records/index.ts';
import type { PositionQuality } from '../stand/index.ts';
import type { TrunkQuantity } from '../units/index.ts';
import type { DateOrder } from './dateIn.ts';
import type { BadRow } from './faults.ts';
import type { ColumnUse } from './roles.ts';
import type { SpeciesSaid } from './species.ts';

/** A past hole as a file tells of it. */
export interface StatedHole {
  readonly season: number;
  readonly bearingDeg: number;
  readonly heightMm: number;
  /** null where the file does not say: the bush's own habit is taken */
  readonly bitMm: number | null;
  readonly depthMm: number | null;
}

export type StatedPosition =
  | { readonly eastM: number; readonly northM: number; readonly quality: PositionQuality }
  | { readonly lat: number; readonly lon: number; readonly quality: PositionQuality };

export interface StatedReading {
  readonly quantity: TrunkQuantity;
  readonly valueMm: number;
  readonly asWritten: string;
  readonly on: string;
  readonly method: MeasureMethod;
  /** height on the trunk, mm; null: at breast height */
  readonly heightMm: number | null;
}

/** What a row, a waypoint or a feature says of one tree. */
export interface Statement {
  /** line in the file, the heading being line 1; the number of the waypoint or feature where there are no lines */
  readonly line: number;
  /** the row as it was written */
  readonly cells: readonly string[];
  readonly tag: string;
  readonly stand: string | null;
  readonly species: SpeciesId | null;
  /** "maple": one of them, species open */
  readonly mapleOpen: boolean;
  /** the day on which the species was settled, where the file says it */
  readonly determinedOn: string | null;
  readonly reading: StatedReading | null;
  readonly position: StatedPosition | null;
  readonly holes: readonly StatedHole[];
  /** what a remark keeps of it */
  readonly notes: readonly string[];
}

/** A stand with its outline in degrees, longitude first, as GeoJSON writes it. */
export interface StatedStand {
  readonly line: number;
  readonly name: string;
  readonly purpose: StandPurpose;
  readonly wetness: Wetness | null;
  readonly outline: readonly (readonly [lon: number, lat: number])[];
}

/** A word of the species column: how often it stands there, and what it is taken to say. */
export interface SpeciesWord {
  readonly word: string;
  readonly many: number;
  readonly said: SpeciesSaid | null;
  /** false: it is proposed, and waits for the steward */
  readonly sure: boolean;
}

/** How a table was understood. */
export interface TableUnderstood {
  /** in the order of the heading */
  readonly columns: readonly ColumnUse[];
  /** the cells of the first rows */
  readonly shown: readonly (readonly string[])[];
  /** the order of its dates, as told or found; null where it is open */
  readonly dates: DateOrder | null;
  /** the most frequent first */
  readonly words: readonly SpeciesWord[];
}

/** What was understood of a file. */
export interface StatementFile {
  readonly statements: readonly Statement[];
  /** rows that wait for an answer, as far as they can be read: they tell what else is to be asked */
  readonly waiting: readonly Statement[];
  readonly stands: readonly StatedStand[];
  readonly bad: readonly BadRow[];
  readonly heading: readonly string[];
  /** columns that were not understood and are left out */
  readonly ignoredColumns: readonly string[];
  /** null where the file is no table */
  readonly table: TableUnderstood | null;
}

/** A file that cannot be read at all. */
export class UnreadableFile extends UserFacingError<'unreadableFile'> {
  constructor(message: string) {
    super('unreadableFile', message);
  }
}

/** Rows that a file may have. */
export const MAX_ROWS = 25_000;
/** Columns that a file may have. */
export const MAX_COLUMNS = 100;
