import { counted } from './counted.ts';
import { compassPoint } from '@baumkin/core/math';
import type { Cut, Mark } from '@baumkin/core/records';
import type { WildlifeKind } from '@baumkin/core/taps';
import type { HeldBack, ListedTree, MindedTree, Refusal } from '@baumkin/core/bush';
import type {
  BarringHazard,
  Clash,
  CropPart,
  CropScore,
  HoldReason,
  KeptFor,
  LimitId,
  TakeReason
} from '@baumkin/core/thinning';

import { listed } from '../words/listed.ts';
import { BAN_WORDS, nothingIsCut } from './permission.ts';
import { HAZARD_WORDS, WILDLIFE_WORDS } from './taps.ts';

export const MARK_SAID: Readonly<Record<Mark['purpose'], string>> = {
  take: 'Marked to take',
  girdle: 'Marked to girdle for wildlife',
  keep: 'Marked to keep',
  watch: 'Marked to watch',
  brace: 'Marked for a brace by a professional',
  none: 'Mark taken off'
};

export const CUT_WORDS: Readonly<Record<Cut['what'], string>> = {
  felled: 'felled',
  fallen: 'fell by itself',
  girdled: 'girdled, left to die standing',
  lying: 'lies, and is alive'
};

export const KEPT_WORDS: Readonly<Record<KeptFor, string>> = {
  home: 'something lives in it',
  lastOfKind: 'one of the last of its kind',
  seed: 'for seed',
  fibre: 'for fibre',
  handles: 'for handles',
  nuts: 'for nuts',
  story: 'for its story',
  other: 'for something else'
};

export const LIMIT_WORDS: Readonly<Record<LimitId, string>> = {
  share: 'the share of basal area that one entry may take',
  residual: 'how much is to stay standing',
  cover: 'the ground that stays under crowns',
  others: 'the share of other species that stays',
  opening: 'the width of openings',
  must: 'what has to go in any case'
};

/** Why a tree is among those taken, in a line. @param tagOf the tag of a crop tree */
export function reasonWords(reasons: readonly TakeReason[], tagOf: (id: string) => string): string {
  const freed = reasons.flatMap((r) => (r.why === 'frees' ? [`the ${r.side} side of ${tagOf(r.crop)}`] : []));
  return [
    ...(freed.length > 0 ? [`frees ${listed(freed)}`] : []),
    ...(reasons.some(({ why }) => why === 'dying') ? ['dying, or counted on to go'] : []),
    ...(reasons.some(({ why }) => why === 'must') ? ['to go in any case'] : [])
  ].join('; ');
}

/** When a tree is to be looked at again, in a sentence. @param today ISO date */
export function lookAgain(reviewOn: string | null, today: string): string {
  if (reviewOn === null) return 'No day is set to look again.';
  return reviewOn <= today ? `Look again now: it was due on ${reviewOn}.` : `Look again by ${reviewOn}.`;
}

const HOME_WORDS: Readonly<Record<WildlifeKind, string>> = {
  cavity: 'something lives in its cavity',
  nest: 'a nest is in it',
  den: 'a den is in it',
  woodpeckers: 'woodpeckers live in it',
  batRoost: 'bats roost in it'
};

const KEPT_SAID: Readonly<Record<KeptFor, string>> = {
  home: ' as a home',
  lastOfKind: ' as one of the last of its kind',
  seed: ' for seed',
  fibre: ' for fibre',
  handles: ' for handles',
  nuts: ' for nuts',
  story: ' for its story',
  other: ''
};

/** Why a tree is kept, within a sentence. */
export function holdWords(hold: HoldReason): string {
  switch (hold.why) {
    case 'girdled':
      return 'it was girdled and is left to stand';
    case 'markedKeep':
      return `it is marked to keep${hold.reason ? ` (${hold.reason})` : hold.keepFor ? KEPT_SAID[hold.keepFor] : ''}`;
    case 'markedWatch':
      return 'it is marked to watch';
    case 'markedBrace':
      return 'it is marked for a brace';
    case 'notOurs':
      return hold.how === 'boundary' ? BAN_WORDS.boundary : 'nobody gave leave for anything to be done to it';
    case 'home':
      return HOME_WORDS[hold.home];
    case 'fewOfItsKind':
      return hold.many === 1 ? 'it is the last of its kind here' : `only ${hold.many} of its kind stand here`;
    case 'resistant':
      return 'it is sound where its kind is dying: such trees are kept';
  }
}

/** Two things that contradict each other at a tree, without a full stop. */
export function clashWords({ going, hold }: Clash): string {
  const said = { marked: 'it is marked to come down', threatens: 'it is a hazard over a path, building or line' };
  return `${going.map((why) => said[why]).join(' and ')}, but ${holdWords(hold)}`;
}

/** Why a tree that is marked to come down stays, without a full stop. */
export const heldBackWords = (held: HeldBack): string =>
  held.why === 'clash' ? clashWords(held.clash) : nothingIsCut(held.word);

/** Why no plan is made for a stand. */
export function refusalWords(refusal: Refusal): string {
  switch (refusal.why) {
    case 'otherPurpose':
      return `${refusal.stand} is managed for something else${refusal.note ? `: ${refusal.note}` : '.'} Nothing is thinned here for maples.`;
    case 'forbidden':
      return `${nothingIsCut(refusal.word)}.`;
    case 'areaUnknown':
      return 'How large this stand is is not known: draw it on the map first.';
    case 'noTrees':
      return 'No tree of this stand has a place and a diameter yet.';
    case 'roughPositions':
      return `The positions are too rough to say whose crowns touch: ${refusal.unknown} of ${refusal.crops} crop trees have no side that can be judged.`;
  }
}

/** What a faller has to know of a tree, the gravest first. @param metres writes a length of ground */
export function cautionWords({ row, cautions }: ListedTree, metres: (m: number) => string): string[] {
  if (!cautions) return ['not on the map: what it can reach is not known'];
  return [
    ...cautions.reaches.map(
      ({ feature, distanceM, withinOneLength }) =>
        `${feature.name} ${metres(distanceM)} away${withinOneLength ? ', which it can hit' : ''}`
    ),
    ...cautions.hazards.map((hazard) => HAZARD_WORDS[hazard]),
    ...(cautions.hollow && !cautions.hazards.includes('hollowButt') ? ['hollow'] : []),
    ...(cautions.brittle && !cautions.deadCrown ? ['dying kind: its wood is brittle'] : []),
    ...(row.species === 'beech' && row.diebackPct === null
      ? ['look at its bark first: sound-barked beech is kept']
      : []),
    ...(cautions.deadCrown ? [`${row.diebackPct} % of its crown is dead`] : []),
    ...(row.leanDeg === null ? [] : [`leans ${compassPoint(row.leanDeg)}`]),
    ...cautions.wildlife.map((home) => `${WILDLIFE_WORDS[home]}: look before anything is done`),
    ...(cautions.lookedAt ? [] : ['nobody has looked up at it yet'])
  ];
}

const MINDED_WORDS: Readonly<Record<MindedTree['as'], string>> = {
  cropTree: 'crop tree',
  home: 'home',
  kept: 'kept',
  young: 'young'
};

/** What stands within a tree's own length, side by side. */
export function nearWords(near: ListedTree['near']): string {
  return near
    .map(({ side, named, more }) => {
      const trees = named.map(({ tag, as }) => `${tag ?? 'one without a tag'} (${MINDED_WORDS[as]})`).join(', ');
      return `${side}: ${trees}${more > 0 ? ` and ${more} more` : ''}`;
    })
    .join('; ');
}

const BARRED_WORDS: Readonly<Record<BarringHazard, string>> = {
  deadTop: 'its top is dead',
  hollowButt: 'its butt is hollow',
  splitFork: 'its fork is split',
  rootPlate: 'its root plate lifts',
  conks: 'conks grow on it: it is rotten inside',
  hungUp: 'another tree hangs in it, or it hangs in another',
  brokenTop: 'its top is broken'
};

/** Why a tree can be no crop tree, within a sentence. */
export function barredWords(barred: NonNullable<CropScore['barred']>): string {
  switch (barred.why) {
    case 'notMaple':
      return 'it is not known to be a maple';
    case 'dieback':
      return `${barred.pct} % of its crown has died back`;
    case 'hazard':
      return BARRED_WORDS[barred.hazard];
  }
}

function seenWords(part: CropPart): string {
  switch (part.of) {
    case 'species':
      return part.sweet ? 'sweet maple' : 'other maple';
    case 'crown':
      return part.diebackPct === null ? 'crown not looked at yet' : `${part.diebackPct} % dieback`;
    case 'crownClass':
      return part.crownClass ? `${part.crownClass} crown` : 'crown class not noted';
    case 'trunk':
      return { none: 'no defect noted', defects: 'defects of the trunk', includedFork: 'a fork with bark grown in' }[
        part.fault
      ];
    case 'size':
    case 'growth':
      return part.of;
    case 'closing': {
      const { stressed, openYears } = part;
      if (stressed) return 'stressed of late';
      if (openYears === null) return 'closing of holes not looked at';
      if (openYears === 0) return 'its holes have closed';
      return `a hole open after ${counted(openYears, 'year')}`;
    }
  }
}

/** What a tree got its points for. */
export const cropPartWords = (parts: readonly CropPart[]): string =>
  listed(parts.map((part) => `${seenWords(part)} ${part.points} of ${part.most}`));
