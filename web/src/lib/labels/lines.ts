import { LONGEST_LATERAL_M, MOST_LIFT_M, TAPS_A_LATERAL, type DropReach, type LineJudged } from '@baumkin/core/bush';
import {
  LEAST_FALL,
  type FallFinding,
  type LevellingMethod,
  type LinePartKind,
  type PipeUse,
  type Surety
} from '@baumkin/core/lines';
import { Z_EIGHTY } from '@baumkin/core/math';
import type { LengthUse } from '@baumkin/core/units';
import { group } from 'd3-array';

import { listed } from '../words/listed.ts';
import { counted } from './counted.ts';

export const PIPE_USE_WORDS: Readonly<Record<PipeUse, string>> = {
  main: 'main line',
  air: 'air line',
  spur: 'spur',
  lateral: 'lateral'
};

export const LEVELLING_WORDS: Readonly<Record<LevellingMethod, string>> = {
  level: 'a level and staff',
  waterTube: 'a water tube',
  clinometer: 'a clinometer',
  receiver: 'a surveying receiver',
  phone: 'a phone',
  map: 'a map'
};

export const LINE_PART_WORDS: Readonly<Record<LinePartKind, string>> = {
  pipe: 'pipe',
  wire: 'wire',
  posts: 'posts, or ties to trees',
  tallPosts: 'tall posts, for crossings',
  sideTies: 'side ties, at bends',
  culvert: 'culvert pipe',
  sleeve: 'insulating sleeve',
  releasers: 'releaser, at the tank',
  jumpers: 'jumpers, spur to air line',
  tees: 'tees for drops',
  fittings: 'fittings, line into line',
  ends: 'end caps or hooks',
  dropTube: 'drop tube',
  spouts: 'spouts'
};

export const SURETY_WORDS: Readonly<Record<Surety, string>> = {
  sure: 'sure',
  likely: 'likely',
  cannotBeTold: 'cannot be told'
};

type Lengths = { readonly length: (mm: number, use: LengthUse) => string };
const percent = (slope: number) => `${(100 * slope).toFixed(1)} %`;
const along = ({ profile }: Pick<LineJudged, 'profile'>, node: number, lengths: Lengths) =>
  lengths.length(1000 * profile.atM[node]!, 'way');

/** What is wrong with a line's fall, or may be: each stretch with what is sure or likely of it, then what cannot be told. */
export function findingsInWords(judged: LineJudged, lengths: Lengths): { surety: Surety; says: string }[] {
  if (judged.line.use !== 'air' && !judged.levelled)
    return [
      {
        surety: 'cannotBeTold',
        says: `nobody levelled it${judged.line.runsSince === null ? '' : ' since it runs so'}: how it falls is not known.`
      }
    ];
  const open = judged.findings.filter(({ surety }) => surety === 'cannotBeTold');
  return [
    ...judged.findings
      .filter(({ surety }) => surety !== 'cannotBeTold')
      .map((finding) => ({ surety: finding.surety, says: faultWords(judged, finding, lengths) })),
    ...(open.length > 0 ? [{ surety: 'cannotBeTold' as const, says: openWords(judged, open, lengths) }] : [])
  ];
}

const falling = ({ slope, surety }: FallFinding) =>
  `${percent(slope.mean)}${surety === 'sure' ? '' : `, give or take ${percent(Z_EIGHTY * slope.sd)}`}`;

function faultWords(judged: LineJudged, finding: FallFinding, lengths: Lengths): string {
  const { fault, from, to, riseM } = finding;
  const where = `between ${along(judged, from, lengths)} and ${along(judged, to, lengths)}`;
  if (fault === 'dip')
    return `${where} it rises${riseM > 0 ? ` ${lengths.length(1000 * riseM, 'hand')}` : ''}: sap stands there, and freezes.`;
  if (fault === 'sag')
    return `${where} it sags between what holds it: on the whole it falls ${falling(finding)} there.`;
  return `${where} it falls ${falling(finding)}: under ${percent(LEAST_FALL)}.`;
}

function openWords(judged: LineJudged, open: readonly FallFinding[], lengths: Lengths): string {
  const [first, last] = [open[0]!, open.at(-1)!];
  const where = `between ${along(judged, first.from, lengths)} and ${along(judged, last.to, lengths)}`;
  const [only] = open;
  return open.length === 1
    ? `${where} it falls ${falling(only!)}: whether it falls enough cannot be told.`
    : `${where}, whether it falls enough cannot be told of ${open.length} stretches.`;
}

/** What would mend a line, in order; nothing where nothing is wrong. */
export function mendWords(judged: LineJudged, lengths: Lengths): string[] {
  const { line, findings, levelled, lifting, faults, wantsBoreMm, tapsAbove, bears, bearsWithAir, taps } = judged;
  const posts = findings.reduce(
    (sum, { fault, surety, posts }) => sum + (fault === 'sag' && surety !== 'cannotBeTold' ? (posts ?? 0) : 0),
    0
  );
  const open = findings.filter(({ surety }) => surety === 'cannotBeTold');
  const places = lifting?.liftsM.flatMap((lift, i) =>
    lift >= 0.02 ? `${lengths.length(1000 * lift, 'hand')} at ${along(judged, i, lengths)}` : []
  );
  return [
    ...(lifting && places && places.length > 0
      ? [
          lifting.mostM <= MOST_LIFT_M
            ? `Lift it by ${listed(places)}: then it falls ${percent(LEAST_FALL)} everywhere.`
            : `Lifting alone would take ${lengths.length(1000 * lifting.mostM, 'hand')}: lower what lies below, or lead it another way.`
        ]
      : []),
    ...(posts > 0 && Number.isFinite(posts)
      ? [`${counted(posts, 'more post or tie', 'more posts or ties')} where it sags.`]
      : []),
    ...(levelled && open.length > 0
      ? [
          `A level or a water tube from ${along(judged, open[0]!.from, lengths)} to ${along(judged, open.at(-1)!.to, lengths)} would settle it.`
        ]
      : []),
    ...(faults.includes('narrow')
      ? [
          wantsBoreMm === null
            ? `${counted(tapsAbove, 'tap')} are more than any pipe bears here (this one ${bears}): another main line.`
            : `${runThrough(tapsAbove)}, it bears ${bears}: a bore of ${lengths.length(wantsBoreMm, 'drill')}, or a spur of its own for some.`,
          ...(bearsWithAir !== null && bearsWithAir >= tapsAbove
            ? [`Or an air line of its own to the tank: with it, this pipe bears ${bearsWithAir}.`]
            : [])
        ]
      : []),
    ...(faults.includes('manyTaps')
      ? [
          `${counted(taps, 'tap')} on one lateral: ${counted(Math.ceil(taps / TAPS_A_LATERAL.usual), 'lateral')} of about ${TAPS_A_LATERAL.usual}.`
        ]
      : []),
    ...(faults.includes('long')
      ? [
          `Longer than ${lengths.length(1000 * LONGEST_LATERAL_M, 'way')}: bring ${line.use === 'lateral' ? 'a spur' : 'it'} nearer.`
        ]
      : [])
  ];
}

/** A drop as it hangs on a line, by the tag of its tree. */
export interface NamedDrop extends DropReach {
  readonly tag: string;
}

/** Which drops do not reach holes that are planned. */
export function missedInWords(drops: readonly NamedDrop[]): string[] {
  return drops.flatMap(({ tag, missed }) =>
    missed && missed.length > 0
      ? [`the drop of tree ${tag} does not reach where its holes of ${listed(missed.map(String))} are planned.`]
      : []
  );
}

/** How long drops would have to be to reach all round their trunks, and what is planned there; nothing where all do. */
export function longerDropWords(drops: readonly NamedDrop[], lengths: Lengths): string[] {
  const short = drops.filter(({ share, missed }) => share < 1 || (missed?.length ?? 0) > 0);
  if (short.length === 0) return [];
  const least = Math.floor(100 * Math.min(...short.map(({ share }) => share)));
  const wanted = [...group(short, ({ wantsMm }) => wantsMm)]
    .sort(([a], [b]) => a - b)
    .map(([wantsMm, of]) => `${lengths.length(wantsMm, 'hand')} at ${listed(of.map(({ tag }) => tag))}`);
  return [
    `Longer drops would reach all round until they are made new: ${wanted.join('; ')}. As they are, they reach ${least} % of the girth${short.length === 1 ? '' : ' or more'}.`
  ];
}

/** So many taps, as what runs through a pipe. */
export const runThrough = (taps: number) => `${counted(taps, 'tap')} ${taps === 1 ? 'runs' : 'run'} through it`;
