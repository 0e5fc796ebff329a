import {
  SHIPPED_TABLE,
  speciesById,
  type AgeClass,
  type Because,
  type Character,
  type CharacterId,
  type ClueTable,
  type Conflict,
  type LookSeason,
  type SapClass,
  type SpeciesId,
  type Verdict
} from '@baumkin/core/identify';

import { listed } from '../words/listed.ts';

export const SEASON_NAMES: Readonly<Record<LookSeason, string>> = {
  bare: 'bare',
  swelling: 'buds swelling',
  leaf: 'in leaf',
  fall: 'leaves falling'
};

export const AGE_NAMES: Readonly<Record<AgeClass, string>> = { young: 'young', grown: 'grown', old: 'old' };

/** A verdict as a headline. */
export function headlineOf(verdict: Verdict, leading: SpeciesId, begun: boolean): string {
  if (!begun) return 'Not looked at yet';
  return {
    settled: `Settled: ${speciesById(leading).name}`,
    mapleOpen: 'A maple, species open',
    lookAgain: 'Look again',
    notMaple: 'Not a maple'
  }[verdict];
}

/** The colours of a verdict's panel. */
export function toneOf(verdict: Verdict, begun: boolean): string {
  if (!begun) return 'bg-base-200';
  return {
    settled: 'bg-secondary text-secondary-content',
    mapleOpen: 'bg-secondary text-secondary-content',
    lookAgain: 'bg-primary text-primary-content',
    notMaple: 'bg-neutral text-neutral-content'
  }[verdict];
}

/** A probability as one says it, never more exactly than the table knows. */
export function inHundred(p: number): string {
  return p > 0.995 ? 'over 99 in 100' : p < 0.005 ? 'under 1 in 100' : `${Math.round(p * 100)} in 100`;
}

/** What to do where the twigs at hand may be another tree's. */
const OWN_TWIGS = 'Find a branch or a shoot that grows out of this trunk.';

const nameOf = (table: ClueTable, character: CharacterId) => table.character(character).name.toLowerCase();
const stateOf = (table: ClueTable, character: CharacterId, state: string) =>
  table
    .character(character)
    .states.find((s) => s.id === state)!
    .label.toLowerCase();

/** Two clues that exclude each other, as one would say it. */
export function conflictWords({ a, b }: Conflict, table: ClueTable = SHIPPED_TABLE): string {
  const of = ({ character, state }: Conflict['a']) =>
    `${nameOf(table, character)} “${stateOf(table, character, state)}”`;
  return `No tree on the list shows ${of(a)} with ${of(b)}. Look again at both.`;
}

/** What a verdict rests on or what keeps a tree open, in a sentence or two. */
export function becauseWords(because: Because, table: ClueTable = SHIPPED_TABLE): string {
  switch (because.why) {
    case 'settled':
      return `Opposite twigs, with ${listed(because.clues.map((id) => nameOf(table, id)))}, leave hardly anything but ${speciesById(because.species).name}.`;
    case 'pointsTo':
      return `Everything points to ${speciesById(because.species).name}.`;
    case 'noMaple':
      return because.alternate
        ? 'Alternate twigs: no maple has them. Which other tree it is stays open.'
        : 'It is no maple. Which other tree it is stays open.';
    case 'conflict':
      return conflictWords(because.conflict, table);
    case 'odd': {
      const { character, state, species } = because;
      return `The clues disagree: “${stateOf(table, character, state)}” is rare on ${speciesById(species).name}. Look again at ${nameOf(table, character)}.`;
    }
    case 'nothing':
      return `${because.looked ? 'Weak clues alone never settle a tree.' : 'Nothing has been looked at yet.'} ${because.beside ? OWN_TWIGS : 'Start with the branching.'}`;
    case 'gateAlternate':
      return 'Alternate twigs speak against every maple. Look at several twigs.';
    case 'gateUnseen':
      return 'The branching has not been seen. Without it nothing is settled.';
    case 'gateBeside':
      return `The twigs seen may belong to a neighbour. ${OWN_TWIGS}`;
    case 'lookAlikes':
      return `Opposite twigs are also those of ${listed(because.others.map((id) => speciesById(id).name))}. ${because.lookAt.length > 0 ? `Look at ${because.lookAt.map((id) => nameOf(table, id)).join(' or ')} to exclude them.` : 'What excludes them can be seen in another season.'}`;
    case 'mapleButWhat':
      return `Almost surely a maple; which one stays open. It can be tapped; ${because.inLeaf ? 'look at its leaf to settle the species' : 'settle the species in leaf'}.`;
    case 'unsure':
      return 'The clues so far fit a maple and a look-alike. One more strong clue is needed.';
  }
}

/** How far the first candidate leads another: "about 12 times as likely as red maple". */
export function leadWords(ratio: number, rival: SpeciesId): string {
  const other = speciesById(rival).name;
  if (ratio < 1.5) return `hardly more likely than ${other}`;
  if (ratio > 200) return `far more likely than ${other}`;
  return `about ${ratio < 10 ? Math.round(ratio) : Math.round(ratio / 5) * 5} times as likely as ${other}`;
}

/** A likelihood ratio in words, for the reasons under a verdict. */
export function ratioWords(ratio: number): string {
  if (ratio >= 8) return 'speaks strongly for it';
  if (ratio >= 1.8) return 'speaks for it';
  if (ratio > 1 / 1.8) return 'says little';
  if (ratio > 1 / 8) return 'speaks against it';
  return 'speaks strongly against it';
}

/** What a verdict allows. */
export function allowedWords(verdict: Verdict, sap: SapClass | null): string {
  switch (verdict) {
    case 'settled':
      return sap === 'sweet'
        ? 'Tap by size: sweet sap, the least to boil.'
        : 'Tap by size: a maple with less sugar, more to boil.';
    case 'mapleOpen':
      return 'Tap by size; mark it for a visit in leaf.';
    case 'lookAgain':
      return 'Do not drill yet. Look again, or wait for the leaves.';
    case 'notMaple':
      return 'Leave it untapped.';
  }
}

/** When its buds break, against sugar maple's; they end its season. */
export function budBreakWords(days: number): string {
  if (Math.abs(days) < 3) return 'Its buds break with sugar maple’s.';
  return days < 0
    ? `Its buds break about ${-days} days before sugar maple’s: pull its spouts first.`
    : `Its buds break about ${days} days after sugar maple’s.`;
}

/** A state of a character by its label; its id where the table no longer has it. */
export const labelOf = (character: Character, state: string): string =>
  character.states.find(({ id }) => id === state)?.label ?? state;
