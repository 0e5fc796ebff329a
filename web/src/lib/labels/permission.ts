import type { DrillForbidden, StandWord, TapBanReason } from '@baumkin/core/records';

/** Why a tree is never tapped, as a choice. */
export const BAN_LABELS: Readonly<Record<TapBanReason, string>> = {
  insecticide: 'treated with an insecticide that moves in the sap',
  salt: 'road salt reaches its roots',
  septic: 'by a septic field',
  sprayed: 'at the edge of sprayed ground',
  boundary: 'a boundary tree, not ours alone',
  noPermission: 'nobody gave leave'
};

/** The same within a sentence. */
export const BAN_WORDS: Readonly<Record<TapBanReason, string>> = {
  insecticide: 'it was treated with an insecticide that moves in the sap',
  salt: 'it stands where road salt reaches its roots',
  septic: 'it stands by a septic field',
  sprayed: 'it stands at the edge of sprayed ground',
  boundary: 'it is a boundary tree, and not ours alone',
  noPermission: 'nobody gave leave to tap it'
};

const whose = ({ by, until }: StandWord) => `${by ? ` (${by} says so)` : ''}${until ? `, until ${until}` : ''}`;

/** Why a tree is not to be tapped or drilled, in a sentence. */
export function forbiddenWords(forbidden: DrillForbidden): string {
  switch (forbidden.why) {
    case 'lies':
      return 'It lies: no taps; look again next summer.';
    case 'girdled':
      return 'It was girdled to die.';
    case 'banned':
      return `Never tapped: ${forbidden.reasons.map((reason) => BAN_WORDS[reason]).join('; ')}${forbidden.until ? ` (until ${forbidden.until})` : ''}.`;
    case 'stand':
      return `${forbidden.stand} is not to be tapped${whose(forbidden)}.`;
    case 'notMaple':
      return 'This is not a maple: nothing is drilled.';
    case 'unsettled':
      return 'Its species is not settled: do not drill yet. In bare woods an ash is easily taken for a maple.';
  }
}

/** Whose word forbids to cut in a stand; without its full stop. */
export const nothingIsCut = (word: StandWord): string => `Nothing is cut in ${word.stand}${whose(word)}`;

/** Grounds on which sap is no food. Common practice. */
const SPOILS: readonly TapBanReason[] = ['insecticide', 'salt', 'septic', 'sprayed'];

/** Is a tree not to be tapped because its sap is no food? */
export const spoilsSap = (forbidden: DrillForbidden): boolean =>
  forbidden.why === 'banned' && forbidden.reasons.some((reason) => SPOILS.includes(reason));
