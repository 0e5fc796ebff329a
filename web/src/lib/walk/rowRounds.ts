import {
  closingDue,
  closingSample,
  crownDue,
  hangingDue,
  paintingDue,
  pullingDue,
  seenOn,
  type Stop
} from '@baumkin/core/bush';
import type { TreeRow } from '@baumkin/core/records';
import { releases } from '@baumkin/core/thinning';
import type { Component } from 'svelte';

import type { BushState } from '$lib/client/bush.svelte.ts';
import { counted } from '$lib/labels/counted.ts';

import ClosingStop from './ClosingStop.svelte';
import CrownStop from './CrownStop.svelte';
import GirthStop from './GirthStop.svelte';
import HangStop from './HangStop.svelte';
import LookStop from './LookStop.svelte';
import PaintStop from './PaintStop.svelte';
import PullStop from './PullStop.svelte';
import type { RowRoundSlug } from './roundSlugs.ts';
import type { Walk } from './walk.svelte.ts';

/** A tree of a round that its line alone leads to. */
export interface RowStop extends Stop {
  readonly row: TreeRow;
}

/** What asks at a tree whose records are at hand. */
export interface RowStopProps {
  readonly stop: RowStop;
  readonly walk: Walk<RowStop>;
}

/** A round that is walked: at which trees, and what is asked there. */
export interface RowRound {
  readonly name: string;
  /** what is left, in words */
  readonly left: (trees: number) => string;
  readonly none: string;
  /** what to know before it begins */
  readonly before: string;
  readonly waits: (row: TreeRow, bush: BushState) => boolean;
  /** what of the round is done, by whoever did it, told from the line */
  readonly isDone: (row: TreeRow, bush: BushState) => boolean;
  /** so many, in words */
  readonly done: (trees: number) => string;
  readonly question: Component<RowStopProps>;
}

/** The trees of the closing round, drawn once for the lines that a bush has. */
const samples = new WeakMap<readonly TreeRow[], ReadonlySet<string>>();
function sampleOf({ rows, today }: BushState): ReadonlySet<string> {
  const known = samples.get(rows) ?? closingSample(rows, today);
  samples.set(rows, known);
  return known;
}

/** The rounds that follow from the lines of trees; the tapping round is one of its own. A new one is an entry here. */
export const ROW_ROUNDS: Readonly<Record<RowRoundSlug, RowRound>> = {
  measure: {
    name: 'Measuring round',
    left: (trees) => `${counted(trees, 'tree')} to measure`,
    none: 'No tree is due to be measured here.',
    before:
      'From the uphill side, along and square to a leaning trunk, above or below a swelling. Snow is dug away: the height counts from the ground.',
    waits: (row, bush) => bush.isOutstanding('measure', row),
    isDone: (row, bush) => row.lastReadingOn === bush.today,
    done: (trees) => `${trees} measured today`,
    question: GirthStop
  },
  crown: {
    name: 'Crown round',
    left: (trees) => `${counted(trees, 'crown')} to look up at`,
    none: 'Every crown here was looked up at within three years.',
    before: 'Look up from some way off before you walk under a crown: dead limbs fall without wind.',
    waits: (row, bush) => crownDue(row, bush.standOf(row), bush.today),
    isDone: (row, bush) => seenOn(row, 'diebackPct') === bush.today,
    done: (trees) => `${trees} looked up at today`,
    question: CrownStop
  },
  identify: {
    name: 'What is it',
    left: (trees) => `${counted(trees, 'tree')} to tell`,
    none: 'Every tree here is told.',
    before: 'Branching first. What cannot be told is passed over; a tree that stays open wants a visit in leaf.',
    waits: (row, bush) => bush.isOutstanding('identify', row),
    isDone: (row, bush) => row.determinedOn === bush.today,
    done: (trees) => `${trees} told today`,
    question: LookStop
  },
  paint: {
    name: 'Marking round',
    left: (trees) => `${counted(trees, 'mark')} to put on`,
    none: 'Every mark stands on its trunk.',
    before:
      'Look up first: nests, dens and dead limbs. A mark is no leave to fell; whoever fells looks at each tree anew.',
    waits: (row, bush) =>
      paintingDue(row) &&
      !bush.questions.some(({ question, answer }) => answer === null && question.ofTreeId === row.id),
    isDone: (row) => !row.cut && !row.fallen && releases(row.mark) && row.markPainted,
    done: (trees) => `${trees} stand on their trunks`,
    question: PaintStop
  },
  hang: {
    name: 'Hanging round',
    left: (trees) => `vessels to hang at ${counted(trees, 'tree')}`,
    none: 'Every vessel hangs, or its spout was set too lately.',
    before: 'Tug each spout before weight hangs on it; lids on. On ice, poles and cleats.',
    waits: (row, bush) => {
      const { season, today, overview } = bush;
      return hangingDue(row, { season, today, hangAfterDays: overview!.bush.settings.hangAfterDays });
    },
    isDone: (row, bush) => !row.cut && row.drilled > 0 && row.hungSeason === bush.season,
    done: (trees) => `${counted(trees, 'tree')} with its vessels`,
    question: HangStop
  },
  pull: {
    name: 'Pulling round',
    left: (trees) => `spouts to pull on ${counted(trees, 'tree')}`,
    none: 'No spout is in, as far as anybody wrote down.',
    before: 'Out with a straight pull, and no hammer on the bark. Nothing goes into the hole: it closes by itself.',
    waits: (row, bush) => pullingDue(row, bush.season),
    isDone: (row, bush) => !row.cut && row.drilled > 0 && !pullingDue(row, bush.season),
    done: (trees) => `${counted(trees, 'tree')} without a spout again`,
    question: PullStop
  },
  closing: {
    name: 'Closing round',
    left: (trees) => `${counted(trees, 'trunk')} with old holes to look at`,
    none: 'The holes of these years were all looked at since the summer.',
    before: 'A hole that is open after three years tells of a weak tree. Look for wood across it, not bark alone.',
    waits: (row, bush) => closingDue(row, bush.today) && sampleOf(bush).has(row.id),
    isDone: (row, bush) => seenOn(row, 'oldestOpenHoleYears') === bush.today,
    done: (trees) => `${trees} looked at today`,
    question: ClosingStop
  }
};
