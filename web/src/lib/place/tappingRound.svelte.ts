import {
  AS_PLANNED_MM,
  countable,
  helpersByTree,
  instructionFor,
  placementOf,
  plannedDepth,
  roundState,
  type RoundState,
  type TreePlacement
} from '@baumkin/core/bush';
import { barkThickness } from '@baumkin/core/measure';
import {
  drillForbidden,
  fewerSinceDecided,
  tapsToHang,
  type RotationRecord,
  type Taphole,
  type TreeRow,
  type TreeState
} from '@baumkin/core/records';
import type { OwnBody } from '@baumkin/core/trunk';
import { minutesAHole } from '@baumkin/core/rotation';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { preferences } from '$lib/client/preferences.svelte.ts';
import { instructionWords, type InstructionWords } from '$lib/labels/placement.ts';

interface Placed {
  readonly row: TreeRow;
  readonly state: TreeState;
  readonly placing: TreePlacement;
  readonly taps: number;
  readonly left: number;
  /** seen since the count was decided, and asks for fewer taps */
  readonly worse: boolean;
}

export type RoundHole = RotationRecord['holes'][number];

/** A tree of the round. */
export interface RoundLine extends Placed {
  /** is its plan of this season in the book, and nothing learned since? */
  readonly settled: boolean;
  /** planned holes that are still to be drilled */
  readonly open: readonly RoundHole[];
  readonly off: RoundState<RoundHole, Taphole>;
  /** drilled by eye where nothing was planned */
  readonly elsewhere: number;
}

/** The tapping round of a bush: every tree that has holes to drill this season, or had, with its plan. */
export class TappingRound {
  readonly #bush: BushState;
  #states = $state.raw<ReadonlyMap<string, { readonly row: TreeRow; readonly state: TreeState }> | null>(null);
  #following = false;
  #wanted: readonly TreeRow[] | null = null;
  /** how many trees were read of those that have a count */
  reading = $state.raw({ done: 0, all: 0 });

  readonly #settings = $derived.by(() => this.#bush.overview!.bush.settings);
  /** Questions that were put together before: a record of one tree asks nothing anew of the others. */
  readonly #asked = $derived.by(
    () => (
      void this.#settings,
      void this.#bush.tapLimits,
      void this.#bush.season,
      new WeakMap<TreeState, TreePlacement | null>()
    )
  );
  /** States of trees whose records are at hand: told anew where there is another record. */
  readonly #told = $derived.by(() => (void this.#bush.expects, new Map<string, { of: string; state: TreeState }>()));
  readonly #placed = $derived.by((): Placed[] => {
    const bush = this.#bush;
    return bush.walked.flatMap((row) => {
      // Records written since the round was opened count too.
      const state = bush.hasLife(row.id) ? this.#stateOf(row.id) : this.#states?.get(row.id)?.state;
      if (!state || !countable(row, bush.standOf(row)) || !state.decision || state.decision.taps === 0) return [];
      const { taps } = state.decision;
      if (drillForbidden(row, bush.standOf(row), bush.today) !== null && state.holesThisSeason.length === 0) return [];
      // The tree was seen in a worse state since its count: only what that state allows is drilled.
      const left = Math.max(0, tapsToHang(row, bush.standOf(row), bush.today) - state.holesThisSeason.length);
      const placing = this.#placingOf(row, state, left);
      return placing ? [{ row, state, placing, taps, left, worse: fewerSinceDecided(row, bush.today) !== null }] : [];
    });
  });
  readonly lines = $derived.by(() =>
    this.#placed.map((tree): RoundLine => {
      const { state, placing, left } = tree;
      const planned = state.rotation?.season === this.#bush.season ? state.rotation.holes : [];
      const off = roundState(planned, state.holesThisSeason, placing.task.trunk.barkRadiusMm);
      const elsewhere = planned.length > 0 ? off.elsewhere.filter(({ strategy }) => strategy === null).length : 0;
      const { settled } = placing.basis;
      return { ...tree, settled, open: off.open.slice(0, left), off, elsewhere };
    })
  );
  /** minutes a hole at the crew's own pace; null while too few are written down */
  readonly pace = $derived.by(() => minutesAHole(this.lines.flatMap(({ state }) => state.holesThisSeason)));

  /** who walks which tree, as the stewards handed the round out; empty where they did not */
  readonly helpers = $derived.by(() => {
    const { bushRecords, season, walked } = this.#bush;
    const shared = bushRecords.findLast((record) => record.kind === 'roundShare' && record.season === season);
    const stretches = shared?.kind === 'roundShare' ? shared.stretches : [];
    return helpersByTree(
      stretches,
      walked.map(({ id }) => id)
    );
  });

  constructor(bush: BushState) {
    this.#bush = bush;
  }

  /** Are all trees read that have a count? */
  get isRead(): boolean {
    return this.#states !== null;
  }

  /**
   * Reads the trees whose lines are not those that were read, one reading at a time: others decide and drill while the round is
   * looked at, and a tree of which something came has another line. To be called anew whenever the walk is another.
   */
  async follow(): Promise<void> {
    this.#wanted = this.#bush.walked.filter((row) => (row.decidedTaps ?? 0) > 0);
    if (this.#following) return;
    this.#following = true;
    try {
      while (this.#wanted !== null) {
        const wanted: readonly TreeRow[] = this.#wanted;
        this.#wanted = null;
        await this.#read(wanted);
      }
    } catch {
      // The page says what is missing.
    } finally {
      this.#following = false;
    }
  }

  async #read(decided: readonly TreeRow[]): Promise<void> {
    const bush = this.#bush;
    const known = this.#states;
    const stale = decided.filter((row) => known?.get(row.id)?.row !== row);
    if (known !== null && stale.length === 0) return;
    const rows = new Map(stale.map((row) => [row.id, row]));
    const states = new Map(known);
    let done = 0;
    for await (const { tree, records } of bush.lives(stale)) {
      states.set(tree.id, { row: rows.get(tree.id)!, state: bush.stateFrom(records) });
      if (++done % 100 === 0 && known === null) this.reading = { done, all: stale.length };
    }
    this.#states = states;
  }

  #placingOf(row: TreeRow, state: TreeState, left: number): TreePlacement | null {
    const known = this.#asked.get(state);
    if (known?.task.wanted === left || known === null) return known;
    const placing = placementOf(state, {
      treeId: row.id,
      settings: this.#bush.settingsAt(row.id),
      season: this.#bush.season,
      wanted: left
    });
    this.#asked.set(state, placing);
    return placing;
  }

  #stateOf(treeId: string): TreeState {
    const records = this.#bush.recordsOf(treeId);
    const of = `${records.length} ${records.at(-1)?.id}`;
    const before = this.#told.get(treeId);
    if (before?.of === of) return before.state;
    const state = this.#bush.stateFrom(records);
    this.#told.set(treeId, { of, state });
    return state;
  }

  /** How long so many holes take. */
  timeFor(holes: number): string {
    const minutes = holes * (this.pace ?? this.#settings.minutesAHole);
    return minutes < 90 ? `about ${Math.round(minutes)} minutes` : `about ${Number((minutes / 60).toFixed(1))} hours`;
  }

  /** Where to drill, in words. @param own the measures of whoever drills; for paper, which anybody takes, those of a grown person */
  said(
    { placing, state }: RoundLine,
    spot: Pick<RoundHole, 'bearingDeg' | 'heightMm'>,
    own: OwnBody | null = null
  ): InstructionWords {
    return instructionWords(
      instructionFor(placing, state.trunkFeatures, spot, this.#bush.asPlanned),
      preferences.units,
      own
    );
  }

  /** How deep into the wood a tree's holes go, mm. */
  depthOf({ state }: RoundLine): number {
    return plannedDepth(state, this.#bush.season, this.#settings);
  }

  /** Are a tree's holes made shallower than the bush drills? */
  isShallow(line: RoundLine): boolean {
    return this.depthOf(line) < this.#settings.depthMm;
  }

  /** Where the tape stands on the bit: wood and bark. */
  tapeAt(line: RoundLine): string {
    return preferences.length(this.depthOf(line) + barkThickness(line.row.dbhMm!), 'drill');
  }
}

/** Were holes of a tree drilled elsewhere than they were planned? */
export function isOffPlan({ off: { offMm }, elsewhere }: RoundLine): boolean {
  return elsewhere > 0 || (offMm !== null && offMm > AS_PLANNED_MM);
}
