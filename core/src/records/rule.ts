import { fractionalYear } from '../measure/index.ts';
import { knownMaple } from './maple.ts';
import type { TreeRow } from './treeRow.ts';

/**
 * Rules by which trees are chosen. Each asks one thing of a tree; a tree is chosen where all of them say yes. A tree of
 * which the thing is not known is chosen by no rule about it.
 */
export const RULE_FIELDS = {
  kind: 'choice',
  species: 'choice',
  stand: 'choice',
  quality: 'choice',
  mark: 'choice',
  crownClass: 'choice',
  diameter: 'number',
  ring: 'number',
  readingAge: 'number',
  dieback: 'number',
  taps: 'number',
  questions: 'number'
} as const;
export type RuleField = keyof typeof RULE_FIELDS;

export interface Rule {
  readonly field: RuleField;
  readonly test: 'is' | 'isNot' | 'atLeast' | 'atMost';
  /** a word for a choice; for a number mm of diameter or ring, years, per cent or a count */
  readonly value: string | number;
}

export type TreeKind = 'maple' | 'unsettled' | 'other';
/** Is the tree a maple, is that open, or is it another tree? */
export function kindOf(row: Pick<TreeRow, 'species' | 'verdict'>): TreeKind {
  const maple = knownMaple(row);
  return maple === null ? 'unsettled' : maple ? 'maple' : 'other';
}

/** Chooses trees by rules. @param today ISO date */
export function chosenBy(rules: readonly Rule[], row: TreeRow, today: string): boolean {
  return rules.every(({ field, test, value }) => {
    const known = valueOf(field, row, today);
    if (known === null) return false;
    switch (test) {
      case 'is':
        return known === value;
      case 'isNot':
        return known !== value;
      case 'atLeast':
        return Number(known) >= Number(value);
      case 'atMost':
        return Number(known) <= Number(value);
    }
  });
}

function valueOf(field: RuleField, row: TreeRow, today: string): string | number | null {
  switch (field) {
    case 'kind':
      return kindOf(row);
    case 'species':
      return kindOf(row) === 'unsettled' ? null : row.species;
    case 'stand':
      return row.standId ?? 'none';
    case 'quality':
      return row.positionQuality ?? 'none';
    case 'mark':
      return row.mark ?? 'none';
    case 'crownClass':
      return row.crownClass;
    case 'diameter':
      return row.dbhMm;
    case 'ring':
      return row.ownGrowth > 0 ? row.ringMm : null;
    case 'readingAge':
      return row.lastReadingOn === null ? null : fractionalYear(today) - fractionalYear(row.lastReadingOn);
    case 'dieback':
      return row.diebackPct;
    case 'taps':
      return row.decidedTaps;
    case 'questions':
      return row.questions;
  }
}
