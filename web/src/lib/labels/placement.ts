import type { Learned } from '@baumkin/core/trunk';
import { counted } from './counted.ts';
import { compassPoint } from '@baumkin/core/math';
import { FORESIGHTS, type Foresight, type Objection, type PlacementStrategyId } from '@baumkin/core/rotation';
import type { SawnColumn, Shavings, TappedBefore, TreeState, TrunkFeature } from '@baumkin/core/records';
import {
  onOwnBody,
  type BodyHeight,
  type Instruction,
  type LandmarkName,
  type OldHole,
  type OwnBody,
  type ScarLook,
  type TrunkFeatureKind
} from '@baumkin/core/trunk';
import { formatLength, type LengthUse, type UnitSystem } from '@baumkin/core/units';

import { DEFECT_WORDS } from './taps.ts';

export const FEATURE_WORDS: Readonly<Record<TrunkFeatureKind, string>> = {
  limb: 'a big limb',
  root: 'a big root',
  seam: 'a seam',
  wound: 'a wound',
  line: 'the tubing line',
  nail: 'the tag nail'
};

/** What stands on a trunk, with the year in which the wood was laid open where that is known. */
export function featureWords({ what, since }: Pick<TrunkFeature, 'what' | 'since'>): string {
  // Of older records it was not asked.
  if (!since) return FEATURE_WORDS[what];
  return what === 'limb' ? `a limb that broke off in ${since}` : `${FEATURE_WORDS[what]} of ${since}`;
}

/** A column as the sawn faces showed it. */
export function sawnWords(
  { widthMm, lengthMm, leanDeg }: Pick<SawnColumn, 'widthMm' | 'lengthMm' | 'leanDeg'>,
  ruler: { length(mm: number, use: LengthUse): string }
): string {
  return [
    `a column ${ruler.length(widthMm, 'drill')} wide`,
    ...(lengthMm === null ? [] : [`${ruler.length(lengthMm, 'hand')} long`]),
    ...(leanDeg === null
      ? []
      : [
          leanDeg === 0
            ? 'upright'
            : `leaning ${Math.abs(Math.round(leanDeg))}° to the ${leanDeg < 0 ? 'right' : 'left'}`
        ])
  ].join(', ');
}

/** The placement strategies: a name, the rule as one says it, and what it is good for and leaves out. */
export const STRATEGY_LABELS: Readonly<
  Record<PlacementStrategyId, { readonly name: string; readonly says: string; readonly judged: string }>
> = {
  rotation: {
    name: 'Best clear wood, planned ahead',
    says: 'Each hole where clear wood is almost certain, and so that the coming 25 seasons find clear wood too.',
    judged:
      'Our default: it knows every old hole that was written down, doubts what is doubtful, and loses least over fifty seasons.'
  },
  handSpan: {
    name: 'A hand span off',
    says: 'A hand span from any old hole, and never straight above or below one.',
    judged: 'Easy to keep with no tool but a hand, as long as the old holes can be seen.'
  },
  sixOverTwelve: {
    name: '15 cm over, 30 cm up or down',
    says: 'At least 15 cm (6 in) sideways and 30 cm (12 in) up or down from old holes.',
    judged: 'Safe beside each hole, but on a small trunk no place is left after a few seasons.'
  },
  sixAndSix: {
    name: '15 cm up and 15 cm over',
    says: '15 cm (6 in) up and 15 cm over from the last hole.',
    judged: 'Needs the last hole alone; it comes round again before new wood has covered the old.'
  },
  sixAndTwentyFour: {
    name: '15 cm over, 60 cm up or down',
    says: '15 cm (6 in) over and 60 cm (24 in) up or down by turns.',
    judged: 'Well clear of the last hole; the two heights fill up as fast as the girth allows.'
  },
  pattern: {
    name: 'A small step round the trunk',
    says: 'A fixed small step, always the same way round, well above and below by turns: about 4 cm (1 1/2 in) over and 23 cm (9 in) up or down.',
    judged: 'The best that can be kept without a plan, if the step fits the girth and nobody misses a turn.'
  },
  sunny: {
    name: 'The sunny side',
    says: 'On the south side, under a big limb or over a big root, where it runs first.',
    judged: 'Runs a little earlier, and crowds all holes into one patch: stained wood within a few years.'
  },
  haphazard: {
    name: 'Wherever it looks clear',
    says: 'Anywhere that no scar is seen.',
    judged: 'Better than a patch, but old holes cannot be seen for long, and gaps are left that fit nothing.'
  }
};

/** How far ahead a plan looks: a name, and what it does. */
export const FORESIGHT_LABELS: Readonly<Record<Foresight, { readonly name: string; readonly says: string }>> = {
  now: {
    name: 'The next springs',
    says: 'The clearest wood in the years that you drill yourself, whatever is left for later.'
  },
  generation: {
    name: 'A generation',
    says: `A hole of today counts ${FORESIGHTS.generation} times one that is drilled when today’s are healed over.`
  },
  grandchildren: {
    name: 'Grandchildren',
    says: 'A little more stain in the next years, so that those who drill after you find clear wood.'
  }
};

/** What shavings may look like, and what that means, in the order in which it is asked. */
export const SHAVINGS_LABELS: readonly (readonly [seen: Shavings['seen'], label: string, meaning: string])[] = [
  ['pale', 'Pale cream', 'clear wood'],
  ['partly', 'Partly brown', 'met old wood'],
  ['brown', 'All brown', 'in old wood'],
  ['dry', 'Stays dry', 'no sap comes']
];

/** The step that a strategy wants from the last hole. */
const STEPS: Readonly<Partial<Record<PlacementStrategyId, string>>> = {
  sixAndSix: '15 cm (6 in) up or down and 15 cm over',
  sixAndTwentyFour: '15 cm (6 in) over and 60 cm (24 in) up or down',
  pattern: 'a small step of 2.5 to 5 cm (1 to 2 in) over and 20 to 25 cm (8 to 10 in) up or down'
};

/** What speaks against a place, in words. */
export function objectionWords(objection: Objection): string {
  switch (objection.why) {
    case 'nearDefect':
      return `too near to ${objection.what === null ? 'a defect' : { ...DEFECT_WORDS, ...FEATURE_WORDS }[objection.what]}`;
    case 'lineReach':
      return 'the drop line does not reach, or would run uphill';
    case 'outsideBand':
      return 'outside the band within reach';
    case 'crowded':
      return 'too near to another hole of this season';
    case 'withinSpan':
      return `less than a hand span from the hole of ${objection.season}`;
    case 'straightAbove':
      return `straight above the hole of ${objection.season}`;
    case 'straightBelow':
      return `straight below the hole of ${objection.season}`;
    case 'overAndUp':
      return `within 15 cm (6 in) over and 30 cm (12 in) up or down of the hole of ${objection.season}`;
    case 'offStep':
      return `not ${STEPS[objection.strategy]} from the last hole, of ${objection.season}`;
    case 'notSunny':
      return `on the ${compassPoint(objection.bearingDeg)} side, not the sunny one`;
  }
}

const BODY_WORDS: Readonly<Record<BodyHeight, string>> = {
  knee: 'knee height',
  thigh: 'thigh height',
  hip: 'hip height',
  belly: 'belly height',
  chest: 'chest height',
  shoulder: 'shoulder height',
  above: 'above the shoulder'
};

/** What came out of a hole, in a word or two. */
export const SHAVINGS_SEEN: Readonly<Record<Shavings['seen'], string>> = {
  pale: 'pale',
  partly: 'partly brown',
  brown: 'all brown',
  dry: 'dry'
};

/** How an old hole of unknown year looks, as one answers it: a name, and what is to be seen. */
export const SCAR_LOOK_LABELS: Readonly<Record<ScarLook, readonly [name: string, says: string]>> = {
  open: ['An open hole', 'one can look into it, or push a twig in'],
  closed: ['Closed, and round', 'wood has grown over it, with a dimple or a lip'],
  faint: ['Faint', 'a flat mark, the bark has cracked over it'],
  unknown: ['I cannot say', 'some old hole or other']
};

/** What somebody knows of holes that nobody wrote down. */
export const TAPPED_BEFORE: Readonly<Record<TappedBefore['answer'], string>> = {
  never: 'Never tapped before this book',
  yes: 'Tapped before this book',
  perhaps: 'Perhaps tapped before this book: nobody knows'
};

/** A landmark as one says it: "the hole at the newest green mark". */
export function landmarkWords(name: LandmarkName): string {
  if (name.kind === 'scar') return 'the old scar';
  if (name.kind === 'feature') return FEATURE_WORDS[name.what].replace(/^a /, 'the ');
  const { season, age, paint, sideDeg } = name;
  const which = { thisSeason: 'this season’s', newest: 'the newest', older: `the ${season}` }[age];
  const hole = { thisSeason: 'this season’s hole', newest: 'the newest hole', older: `the hole of ${season}` }[age];
  return `${paint ? `the hole at ${which} ${paint} mark` : hole}${sideDeg === null ? '' : ` on the ${compassPoint(sideDeg)} side`}`;
}

/** Where to drill, said as one would in the woods. */
export interface InstructionWords {
  /** "From the hole at the newest green mark: 9 cm left, 24 cm down." or, without a landmark, by compass and height */
  readonly sentence: string;
  /** "chest height"; on snow, as the body reads it that stands on it */
  readonly bodyHeight: string;
  readonly compass: string;
  readonly highBare: boolean;
}

/** Nearer than this to a part of the body is at it, mm: nobody stands straighter. */
const AT_PART_MM = 25;

/** A height by somebody's own body: "8 cm above your hip". */
function ownBodyWords(heightMm: number, own: OwnBody, hand: (mm: number) => string): string {
  const { part, aboveMm } = onOwnBody(heightMm, own);
  if (part === 'reach' && aboveMm > AT_PART_MM) return 'higher than you reach';
  if (Math.abs(aboveMm) <= AT_PART_MM) return part === 'reach' ? 'as high as you reach' : `at your ${part}`;
  const from = part === 'reach' ? 'what you reach' : `your ${part}`;
  return `${hand(Math.abs(aboveMm))} ${aboveMm > 0 ? 'above' : 'below'} ${from}`;
}

/**
 * An instruction in words: where the hole is, how it is found from the last one, and what to mind.
 * @param own the measures of whoever is told; of a grown person where nobody measured herself
 */
export function instructionWords(
  { bearingDeg, heightMm, from, snowMm, body, highBare }: Instruction,
  system: UnitSystem,
  own: OwnBody | null = null
): InstructionWords {
  const bearing = Math.round(bearingDeg / 5) * 5;
  const compass = `${compassPoint(bearingDeg)} side, bearing ${bearing === 360 ? 0 : bearing}°`;
  const hand = (mm: number) => formatLength(mm, system, 'hand');
  const step = (mm: number, positive: string, negative: string) => {
    const text = hand(Math.abs(mm));
    return /^0 /.test(text) ? [] : [`${text} ${mm > 0 ? positive : negative}`];
  };
  const steps = from ? [...step(from.leftMm, 'left', 'right'), ...step(from.upMm, 'up', 'down')] : [];
  return {
    sentence: from
      ? `From ${landmarkWords(from.name)}: ${steps.length > 0 ? steps.join(', ') : 'at the same place'}.`
      : `On the ${compass}, ${hand(heightMm)} above the ground${snowMm > 0 ? `, ${hand(Math.max(0, heightMm - snowMm))} above the snow` : ''}.`,
    bodyHeight:
      (own ? ownBodyWords(heightMm - snowMm, own, hand) : BODY_WORDS[body]) +
      (snowMm > 0 ? ' as you stand on the snow' : ''),
    compass,
    highBare
  };
}

/** Why a tree's holes are made shallower than the bush drills. */
export function shallowWords({ line: { hollow } }: TreeState): string {
  return hollow
    ? 'Shallower than usual: this tree is hollow behind it.'
    : 'Shallower than usual: its shavings turned brown where no old hole reaches, so that is how deep it carries sap.';
}

/** What stands in a hole's way, as one says it. @param hole the one of a season; undefined where it is none of the book */
export function inTheWayWords(hole: { readonly season: number } | undefined, old: OldHole): string {
  if (hole) return `the hole of ${hole.season}`;
  if (!old.wound) return 'an old scar of unknown year';
  return `the ${{ wound: 'wound', seam: 'seam', limb: 'broken limb' }[old.wound]} of ${old.season}`;
}

/** What the shavings say of the grain, once they say anything. */
export function taughtWords(learned: Learned | null | undefined): string | null {
  if (!learned || learned.looked === 0) return null;
  const { leanMeanDeg, leanFromDeg, leanToDeg, sizeFactor, looked } = learned;
  const lean =
    leanFromDeg > 0 || leanToDeg < 0
      ? `This tree’s grain leans to the ${leanMeanDeg > 0 ? 'left' : 'right'} going up, about ${Math.abs(Math.round(leanMeanDeg))}° (8 in 10: ${Math.round(leanFromDeg)} to ${Math.round(leanToDeg)}°).`
      : `They do not tell yet which way the grain leans (8 in 10: ${Math.round(-leanFromDeg)}° right to ${Math.round(leanToDeg)}° left).`;
  const size =
    sizeFactor > 1.15
      ? ' Its stain reaches farther than most.'
      : sizeFactor < 0.87
        ? ' Its stain stays shorter than most.'
        : '';
  return `Shavings of ${counted(looked, 'hole')} were looked at. ${lean}${size}`;
}
