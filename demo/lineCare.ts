import type { Rng } from '@baumkin/core/math';
import type { BushRecordInput, RecordInput } from '@baumkin/core/records';
import { runIndex } from '@baumkin/core/season';

import { dayInBush, later } from './climate.ts';
import { envelopeOf, round } from './draw.ts';

type PipeLine = Extract<BushRecordInput, { kind: 'pipeLine' }>;
type Bare = (on: string, hour?: number) => Pick<BushRecordInput, 'id' | 'on' | 'recordedAt'>;

/** What is wrong with the lines in the demo's own season, whether anybody finds it or not. */
const SEASON = 2027;
const SPOUTS_SET = '2027-03-01';
/** A squirrel bit into the upper line, below so much of its way. */
const BITTEN = { main: 'Upper line', below: 0.75, since: '2027-03-03', keeps: 0.25 } as const;
/** The third spout of this lateral was never set. */
const FORGOTTEN = { lateral: 'Lower line, left 1', nth: 2 } as const;
/** The lines are timed at their feet on days that run, so many days apart. */
const [TIMED_FROM, APART_DAYS] = ['2027-03-01', 3] as const;
/** A day on which it hardly runs tells too little. */
const LEAST_INDEX = 0.2;
/** Litres that a tap gives in an hour of a day of index 1, and by how much a timing strays. */
const [LITRES_AN_HOUR, TIMING_NOISE] = [0.7, 0.08] as const;

/** The lines of the tank as they really are, and what the crew writes down of them. */
export class LinesAsTheyAre {
  readonly #lines: readonly PipeLine[];
  readonly #tapped: ReadonlyMap<string, number>;
  readonly #forgotten: string | undefined;

  /** @param records the lines that were laid @param holes of all seasons */
  constructor(records: readonly BushRecordInput[], holes: readonly RecordInput[]) {
    this.#lines = records.filter((record): record is PipeLine => record.kind === 'pipeLine');
    const taps = new Map<string, number>();
    for (const hole of holes)
      if (hole.kind === 'taphole' && hole.season === SEASON) taps.set(hole.treeId, (taps.get(hole.treeId) ?? 0) + 1);
    this.#tapped = taps;
    this.#forgotten = this.#lines.find(({ name }) => name === FORGOTTEN.lateral)?.drops[FORGOTTEN.nth]?.treeId;
  }

  /** What of the sap of all its taps reaches the tank on a day, 0..1. */
  keeps(on: string): number {
    if (!on.startsWith(String(SEASON))) return 1;
    const all = this.#lines.map((line) => this.#runs(line, on));
    const taps = all.reduce((sum, { many }) => sum + many, 0);
    return taps > 0 ? all.reduce((sum, { reaching }) => sum + reaching, 0) / taps : 1;
  }

  /** Spouts that were reported set, all but the forgotten one. */
  spoutsSet(uuid: () => string, today: string): RecordInput[] {
    if (today <= SPOUTS_SET) return [];
    return this.#lines
      .flatMap(({ drops }) => drops.map(({ treeId }) => treeId))
      .filter((id) => this.#tapped.has(id) && id !== this.#forgotten)
      .map((id): RecordInput => ({ ...envelopeOf(id, uuid)(SPOUTS_SET), kind: 'hanging', season: SEASON, note: '' }));
  }

  /** What a walk along the lines found last autumn, and what came out of each line's foot in a few minutes since then. */
  writtenDown(today: string, rng: Rng, bare: Bare): BushRecordInput[] {
    const written: BushRecordInput[] = [];
    const lower = this.#lines.find(({ name }) => name === 'Lower line');
    if (lower && today > '2026-10-20')
      written.push({
        ...bare('2026-10-20'),
        kind: 'lineLook',
        lineId: lower.id,
        alongM: 31,
        found: 'bite',
        mended: true,
        note: 'squirrel; sap stains on the bark below'
      });
    for (let on: string = TIMED_FROM; on < today && on < '2027-04-15'; on = later(on, 1)) {
      const index = runIndex(dayInBush(on));
      if (index < LEAST_INDEX) continue;
      for (const line of this.#lines) {
        const reaching = this.#above(line).reduce((sum, each) => sum + this.#runs(each, on, line).reaching, 0);
        const minutes = line.use === 'lateral' ? 6 : 2;
        const strays = Math.exp(rng.normal(0, TIMING_NOISE));
        const litres = round((reaching * LITRES_AN_HOUR * index * strays * minutes) / 60, 2);
        if (litres > 0)
          written.push({ ...bare(on, 14), kind: 'lineReading', lineId: line.id, hour: 14, litres, minutes });
      }
      on = later(on, APART_DAYS - 1);
    }
    return written;
  }

  #above(line: PipeLine): PipeLine[] {
    return [line, ...this.#lines.filter(({ intoId }) => intoId === line.id)];
  }

  /** Taps of one line, and how many of them are worth something where the sap comes out. */
  #runs(line: PipeLine, on: string, outOf?: PipeLine): { many: number; reaching: number } {
    const many = line.drops.reduce((sum, { treeId }) => sum + (this.#tapped.get(treeId) ?? 0), 0);
    const running = line.drops.reduce(
      (sum, { treeId }) => sum + (treeId === this.#forgotten ? 0 : (this.#tapped.get(treeId) ?? 0)),
      0
    );
    const main = this.#lines.find(({ id }) => id === line.intoId);
    const passesBite =
      main?.name === BITTEN.main && outOf?.id !== line.id && on >= BITTEN.since && isAboveBite(line, main);
    return { many, reaching: running * (passesBite ? BITTEN.keeps : 1) };
  }
}

/** Does a lateral run into its main line above the bite? */
function isAboveBite({ points }: PipeLine, main: PipeLine): boolean {
  const [east, north] = points.at(-1)!;
  const away = main.points.map(([e, n]) => Math.hypot(e - east, n - north));
  return away.indexOf(Math.min(...away)) < BITTEN.below * main.points.length;
}
