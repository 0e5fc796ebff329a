import type { SpeciesId, Verdict } from '../identify/index.ts';
import { isMaple } from '../identify/index.ts';
import {
  bushRingPriors,
  diameterAt,
  estimateGrowth,
  fractionalYear,
  RING_PRIOR,
  siftReadings,
  sizeExpectation,
  toDiameter,
  type Company,
  type CrownClass,
  type DatedDiameter,
  type GrowthEstimate,
  type ReadingQuestion,
  type RingPriors,
  type SizeExpectation
} from '../measure/index.ts';
import type { CrownRadii } from '../stand/index.ts';
import {
  conditionCap,
  LOOKED_AT,
  type Condition,
  type ConditionCap,
  type DefectKind,
  type EarlierLooks,
  type HazardKind,
  type WildlifeKind
} from '../taps/index.ts';
import type { KeptFor, MarkPurpose } from '../thinning/index.ts';
import type {
  Assessment,
  BushRecord,
  CropChoice,
  CrownCardRecord,
  Cut,
  Decision,
  Determination,
  Entry,
  Mark,
  Reading,
  RecordKind,
  Scars,
  Shavings,
  Stand,
  TapBan,
  Taphole,
  Tree,
  TreePlace,
  TrunkFeature,
  WorkRecord
} from './schema.ts';

/** A tree's records in the order in which they hold: corrected and withdrawn ones left out. */
export function standing<T extends WorkRecord | BushRecord>(records: readonly T[]): T[] {
  const corrected = new Set(records.map((r) => r.correctsId).filter((id) => id !== null));
  return records
    .filter((r) => !r.withdrawn && !corrected.has(r.id))
    .sort((a, b) => a.on.localeCompare(b.on) || a.recordedAt.localeCompare(b.recordedAt) || a.id.localeCompare(b.id));
}

/** A tree's present state, derived from its records. */
export interface TreeState {
  /** null once it was taken out of the book */
  readonly entry: Entry | null;
  readonly place: TreePlace | null;
  readonly determination: Determination | null;
  readonly readings: readonly Reading[];
  /** readings that the guard asks about and nobody has answered for; growth and diameter leave them aside */
  readonly questioned: ReadonlyMap<string, ReadingQuestion>;
  /** the last reading that is not questioned */
  readonly lastReading: Reading | null;
  readonly growth: GrowthEstimate;
  /** diameter to be expected on the asked day, mm; null before the first reading */
  readonly dbhMm: number | null;
  /** measured height, metres; null where none was taken */
  readonly heightM: number | null;
  /** measured reach of the crown to the north, east, south and west, metres */
  readonly crownRadiiM: CrownRadii | null;
  /** the last look, with what it left open told by earlier ones */
  readonly assessment: (Assessment & { readonly earlier: EarlierLooks }) | null;
  readonly decision: Decision | null;
  readonly holes: readonly Taphole[];
  readonly holesThisSeason: readonly Taphole[];
  readonly shavings: ReadonlyMap<string, Shavings>;
  readonly trunkFeatures: readonly TrunkFeature[];
  readonly scars: readonly Scars[];
  readonly lastTappedSeason: number | null;
  readonly mark: Mark | null;
  readonly cropChoice: CropChoice | null;
  /** what was last seen from under it */
  readonly crownCard: CrownCardRecord | null;
  /** how it came to its end; null while it stands, dead or alive, or lies alive */
  readonly cut: Cut | null;
  /** girdled and left to die standing, or lying alive; null otherwise */
  readonly fallen: Cut | null;
  readonly tapBan: TapBan | null;
}

/**
 * @param records of one tree, in any order
 * @param season the season being planned
 * @param today ISO date
 * @param priors ring widths to expect in this bush
 * @param sizes of the bush's trees, which a first reading is held against
 */
export function deriveTree(
  records: readonly WorkRecord[],
  season: number,
  today: string,
  priors: RingPriors = RING_PRIOR,
  sizes: SizeExpectation | null = null
): TreeState {
  const valid = standing(records);
  const of = <K extends RecordKind>(kind: K) =>
    valid.filter((r): r is Extract<WorkRecord, { kind: K }> => r.kind === kind);
  const readings = of('reading');
  const assessment = lastLooks(of('assessment'));
  const holes = of('taphole');
  const { trusted, questioned } = sift(readings, { sizes, tapped: holes.length > 0 });
  const dated = trusted.map(datedDiameter);
  const growth = estimateGrowth(dated, assessment?.crownClass ?? null, priors);
  const before = holes.filter((hole) => hole.season < season).map((hole) => hole.season);
  return {
    entry: of('entry').at(-1) ?? null,
    place: of('place').at(-1) ?? null,
    determination: of('determination').at(-1) ?? null,
    readings,
    questioned,
    lastReading: trusted.at(-1) ?? null,
    growth,
    dbhMm: diameterAt(dated, growth, fractionalYear(today)),
    heightM:
      of('stature')
        .flatMap((s) => s.heightM ?? [])
        .at(-1) ?? null,
    crownRadiiM:
      of('stature')
        .flatMap((s) => (s.crownRadiiM ? [s.crownRadiiM] : []))
        .at(-1) ?? null,
    assessment,
    decision:
      of('decision')
        .filter((d) => d.season === season)
        .at(-1) ?? null,
    holes,
    holesThisSeason: holes.filter((hole) => hole.season === season),
    shavings: new Map(of('shavings').map((s) => [s.tapholeId, s])),
    trunkFeatures: of('trunkFeature'),
    scars: of('scars'),
    lastTappedSeason: before.length > 0 ? Math.max(...before) : null,
    mark: of('mark').at(-1) ?? null,
    cropChoice: of('cropChoice').at(-1) ?? null,
    crownCard: of('crownCard').at(-1) ?? null,
    ...endOf(of('cut').at(-1) ?? null),
    tapBan:
      of('tapBan')
        .slice(-1)
        .find((ban) => holds(ban.until, today)) ?? null
  };
}

/** A girdled tree stands for years, and one that lies may live: neither is gone. */
/** The last look; what it left open is told by the last one that said it, with the day of that one. */
function lastLooks(looks: readonly Assessment[]): TreeState['assessment'] {
  const last = looks.at(-1);
  if (!last) return null;
  const earlier: EarlierLooks = {};
  const told: Partial<Assessment> = {};
  for (const what of LOOKED_AT) {
    const said = looks.filter((look) => look[what] !== null).at(-1);
    if (!said || said === last) continue;
    earlier[what] = said.on;
    Object.assign(told, { [what]: said[what] });
  }
  return { ...last, ...told, earlier };
}

function endOf(last: Cut | null): Pick<TreeState, 'cut' | 'fallen'> {
  const gone = last !== null && (last.what === 'felled' || last.what === 'fallen');
  return { cut: gone ? last : null, fallen: gone ? null : last };
}

/**
 * The states of a bush's trees with each growth shrunk towards the bush's own trees and each first reading held against
 * their sizes, and those expectations themselves. Two passes: the trees first say what they grow and how thick they are,
 * then each is seen among the others.
 */
export function deriveBush(
  lives: readonly (readonly WorkRecord[])[],
  season: number,
  today: string
): { states: TreeState[]; priors: RingPriors; sizes: SizeExpectation | null } {
  const first = lives.map((records) => deriveTree(records, season, today));
  const priors = bushRingPriors(
    first.flatMap(({ growth, assessment }) =>
      growth.observed ? [{ crownClass: assessment?.crownClass ?? null, ...growth.observed }] : []
    )
  );
  const sizes = sizeExpectation(first.flatMap(({ dbhMm }) => dbhMm ?? []));
  return { states: first.map((state) => seenAmongOthers(state, today, priors, sizes)), priors, sizes };
}

/** A state with its questions, its growth and the diameter that follows from them, worked out anew. */
function seenAmongOthers(
  state: TreeState,
  today: string,
  priors: RingPriors,
  sizes: SizeExpectation | null
): TreeState {
  const { trusted, questioned } = sift(state.readings, { sizes, tapped: state.holes.length > 0 });
  const dated = trusted.map(datedDiameter);
  const growth = estimateGrowth(dated, state.assessment?.crownClass ?? null, priors);
  return {
    ...state,
    questioned,
    lastReading: trusted.at(-1) ?? null,
    growth,
    dbhMm: diameterAt(dated, growth, fractionalYear(today))
  };
}

/** Parts readings into those to go by and those that the guard asks about. */
function sift(
  readings: readonly Reading[],
  company: Company
): { trusted: Reading[]; questioned: Map<string, ReadingQuestion> } {
  const questions = siftReadings(
    readings.map((reading) => ({ ...datedDiameter(reading), confirmed: reading.confirmed })),
    company
  );
  return {
    trusted: readings.filter((_, i) => questions[i] === null),
    questioned: new Map(readings.flatMap(({ id }, i) => (questions[i] ? [[id, questions[i]] as const] : [])))
  };
}

export function datedDiameter(reading: Reading): DatedDiameter {
  return {
    year: fractionalYear(reading.on),
    dbhMm: toDiameter(reading.valueMm, reading.quantity),
    method: reading.method
  };
}

/** One line per tree: what lists, the bead string and the map want to know. */
export interface TreeRow extends Tree {
  readonly species: SpeciesId | null;
  readonly verdict: Verdict | null;
  readonly heightM: number | null;
  readonly crownRadiiM: CrownRadii | null;
  /** the day of the last determination */
  readonly determinedOn: string | null;
  readonly dbhMm: number | null;
  readonly ringMm: number;
  readonly ringSeMm: number;
  /** share of the growth that rests on the tree's own readings, 0..1 */
  readonly ownGrowth: number;
  readonly lastReadingOn: string | null;
  readonly lastReading: DatedDiameter | null;
  /** readings that wait for an answer to the guard's question */
  readonly questions: number;
  readonly crownClass: CrownClass | null;
  readonly diebackPct: number | null;
  readonly oldestOpenHoleYears: number | null;
  readonly stressed: boolean | null;
  readonly peeledPct: number | null;
  readonly peelFresh: boolean;
  /** the day of the last look at crown, holes and trunk */
  readonly lookedOn: string | null;
  /** when that was seen which the last look left open and an earlier one told */
  readonly earlierLooks: EarlierLooks;
  readonly decidedTaps: number | null;
  /** somebody looked at crown, holes or trunk after the count was decided */
  readonly lookedSinceDecided: boolean;
  readonly drilled: number;
  readonly lastTappedSeason: number | null;
  readonly mark: MarkPurpose | null;
  readonly markReason: string;
  readonly keepFor: KeptFor | null;
  /** marked to come down although something speaks for keeping it */
  readonly despite: boolean;
  readonly reviewOn: string | null;
  readonly leanDeg: number | null;
  /** the steward's word on it as a crop tree */
  readonly crop: 'crop' | 'veto' | null;
  readonly crownCard: CrownCardRecord | null;
  readonly defects: readonly DefectKind[];
  readonly hazards: readonly HazardKind[];
  readonly wildlife: readonly WildlifeKind[];
  /** how it was felled or fell; null while it stands, dead or alive, or lies alive */
  readonly cut: Cut | null;
  /** girdled and left to die standing, or lying alive */
  readonly fallen: Cut | null;
  readonly tapBan: TapBan | null;
}

/** What a tree's entry and place say of it, for the line in the book. */
export function bookLine({ entry, place }: Pick<TreeState, 'entry' | 'place'>): Omit<Tree, 'id' | 'walkOrder'> | null {
  if (!entry) return null;
  return {
    tag: entry.tag,
    tagged: entry.tagged,
    standId: entry.standId,
    stemOf: entry.stemOf,
    eastM: place?.eastM ?? null,
    northM: place?.northM ?? null,
    positionQuality: place?.quality ?? null,
    positionAccuracyM: place?.accuracyM ?? null
  };
}

/** Was a tree taken out of the book? Not where nothing is known of how it came in. */
export function isGone(records: readonly WorkRecord[]): boolean {
  const entries = records.filter((r) => r.kind === 'entry');
  return entries.length > 0 && standing(entries).length === 0;
}

/** A tree's line in the book from its records; null where it is not in it. */
export function treeLine(id: string, walkOrder: number, records: readonly WorkRecord[]): Tree | null {
  const last = <K extends 'entry' | 'place'>(kind: K) =>
    (standing(records.filter((r) => r.kind === kind)).at(-1) as Extract<WorkRecord, { kind: K }> | undefined) ?? null;
  const line = bookLine({ entry: last('entry'), place: last('place') });
  return line && { id, walkOrder, ...line };
}

/**
 * The lines of the book from the records of all trees.
 * @param walk ids of the trees in walking order; those that were taken out of the book may be among them
 */
export function linesOf(walk: readonly string[], records: readonly WorkRecord[]): Tree[] {
  const byTree = new Map<string, WorkRecord[]>(walk.map((id) => [id, []]));
  for (const record of records) byTree.get(record.treeId)?.push(record);
  return walk.flatMap((id, i) => treeLine(id, i, byTree.get(id)!) ?? []);
}

/** The line of a tree from its state. Its entries and places go before what the line said of them. */
export function treeRow(tree: Tree, state: TreeState): TreeRow {
  return {
    ...tree,
    ...bookLine(state),
    heightM: state.heightM,
    crownRadiiM: state.crownRadiiM,
    species: state.determination?.species ?? null,
    verdict: state.determination?.verdict ?? null,
    determinedOn: state.determination?.on ?? null,
    dbhMm: state.dbhMm,
    ringMm: state.growth.ringMm,
    ringSeMm: state.growth.ringSeMm,
    ownGrowth: state.growth.weightOfReadings,
    lastReadingOn: state.lastReading?.on ?? null,
    lastReading: state.lastReading ? datedDiameter(state.lastReading) : null,
    questions: state.questioned.size,
    crownClass: state.assessment?.crownClass ?? null,
    diebackPct: state.assessment?.diebackPct ?? null,
    oldestOpenHoleYears: state.assessment?.oldestOpenHoleYears ?? null,
    stressed: state.assessment?.stressed ?? null,
    peeledPct: state.assessment?.peeledPct ?? null,
    peelFresh: state.assessment?.peelFresh ?? false,
    lookedOn: state.assessment?.on ?? null,
    earlierLooks: state.assessment?.earlier ?? {},
    decidedTaps: state.decision?.taps ?? null,
    lookedSinceDecided: (state.assessment?.recordedAt ?? '') > (state.decision?.recordedAt ?? '9'),
    drilled: state.holesThisSeason.length,
    lastTappedSeason: state.lastTappedSeason,
    mark: state.mark && state.mark.purpose !== 'none' ? state.mark.purpose : null,
    markReason: state.mark?.reason ?? '',
    keepFor: state.mark?.keepFor ?? null,
    despite: state.mark?.despite ?? false,
    reviewOn: state.fallen?.reviewOn ?? state.mark?.reviewOn ?? null,
    leanDeg: state.mark?.leanDeg ?? null,
    crop: state.cropChoice && state.cropChoice.choice !== 'none' ? state.cropChoice.choice : null,
    crownCard: state.crownCard,
    defects: state.assessment?.defects.map(({ kind }) => kind) ?? [],
    hazards: state.assessment?.hazards ?? [],
    wildlife: state.assessment?.wildlife ?? [],
    cut: state.cut,
    fallen: state.fallen,
    tapBan: state.tapBan
  };
}

/** What was last seen of a tree's condition; null where nobody looked. */
export function conditionOf(
  row: Pick<
    TreeRow,
    'lookedOn' | 'earlierLooks' | 'diebackPct' | 'oldestOpenHoleYears' | 'stressed' | 'peeledPct' | 'peelFresh'
  >
): Condition | null {
  return row.lookedOn === null ? null : { ...row, on: row.lookedOn, earlier: row.earlierLooks };
}

const BAN_WORDS: Readonly<Record<TapBan['reasons'][number], string>> = {
  insecticide: 'it was treated with an insecticide that moves in the sap',
  salt: 'it stands where road salt reaches its roots',
  septic: 'it stands by a septic field',
  sprayed: 'it stands at the edge of sprayed ground',
  boundary: 'it is a boundary tree, and not ours alone',
  noPermission: 'nobody gave leave to tap it'
};

/** Does a ban, or a word given for a while, still hold on a day? */
const holds = (until: string | null, today: string) => until === null || today <= until;

/** Why a tree is not to be tapped, whatever it bears, as a sentence; null where nothing forbids it. @param today ISO date */
export function tapForbidden(
  row: Pick<TreeRow, 'tapBan' | 'fallen'>,
  stand: Pick<Stand, 'name' | 'mayTap' | 'byWord' | 'wordUntil'> | null,
  today: string
): string | null {
  const { tapBan, fallen } = row;
  if (fallen) return fallen.what === 'lying' ? 'It lies: no taps; look again next summer.' : 'It was girdled to die.';
  if (tapBan && holds(tapBan.until, today))
    return `Never tapped: ${tapBan.reasons.map((reason) => BAN_WORDS[reason]).join('; ')}${tapBan.until ? ` (until ${tapBan.until})` : ''}.`;
  if (stand && !stand.mayTap && holds(stand.wordUntil, today))
    return `${stand.name} is not to be tapped${whoseWord(stand)}.`;
  return null;
}

const whoseWord = ({ byWord, wordUntil }: Pick<Stand, 'byWord' | 'wordUntil'>) =>
  `${byWord ? ` (${byWord} says so)` : ''}${wordUntil ? `, until ${wordUntil}` : ''}`;

/** Why nothing is cut in a stand, as a sentence; null where nothing forbids it. @param today ISO date */
export function cutForbidden(
  stand: Pick<Stand, 'name' | 'mayCut' | 'byWord' | 'wordUntil'> | null,
  today: string
): string | null {
  return stand && !stand.mayCut && holds(stand.wordUntil, today)
    ? `Nothing is cut in ${stand.name}${whoseWord(stand)}.`
    : null;
}

/** Why a tree is not ours alone to cut; null for one that is, as far as anybody wrote down. @param today ISO date */
export function notOurs({ tapBan }: Pick<TreeRow, 'tapBan'>, today: string): string | null {
  if (!tapBan || !holds(tapBan.until, today)) return null;
  const whose = tapBan.reasons.find((reason) => reason === 'boundary' || reason === 'noPermission');
  return whose === undefined
    ? null
    : whose === 'boundary'
      ? BAN_WORDS.boundary
      : 'nobody gave leave for anything to be done to it';
}

/** Is the tree a maple? null while that is open. */
export function knownMaple(row: Pick<TreeRow, 'species' | 'verdict'>): boolean | null {
  switch (row.verdict) {
    case 'settled':
      return row.species !== null && isMaple(row.species);
    case 'mapleOpen':
      return true;
    case 'notMaple':
      return false;
    default:
      return null;
  }
}

/**
 * Why no hole is drilled in a tree now, whatever was decided once, as a sentence; null where nothing speaks against it.
 * A decision lasts a season, and a ban, a girdle or a second look at the species may come after it.
 * @param today ISO date
 */
export function drillForbidden(
  row: Pick<TreeRow, 'species' | 'verdict' | 'tapBan' | 'fallen'>,
  stand: Parameters<typeof tapForbidden>[1],
  today: string
): string | null {
  switch (knownMaple(row)) {
    case false:
      return 'This is not a maple: nothing is drilled.';
    case null:
      return 'Its species is not settled: do not drill yet. In bare woods an ash is easily taken for a maple.';
    case true:
      return tapForbidden(row, stand, today);
  }
}

type Conditioned = Parameters<typeof conditionOf>[0] & Pick<TreeRow, 'decidedTaps' | 'lookedSinceDecided'>;

/**
 * What a tree's condition allows, where it was seen after the count was decided and allows fewer taps; null otherwise.
 * @param today ISO date
 */
export function fewerSinceDecided(row: Conditioned, today: string): ConditionCap | null {
  if (row.decidedTaps === null || !row.lookedSinceDecided) return null;
  const cap = conditionCap(conditionOf(row), today);
  return cap.taps < row.decidedTaps ? cap : null;
}

/** Taps decided for a tree that nothing has forbidden, and no worse look has put in doubt since. @param today ISO date */
export function tapsToHang(
  row: Parameters<typeof drillForbidden>[0] & Conditioned,
  stand: Parameters<typeof tapForbidden>[1],
  today: string
): number {
  if (drillForbidden(row, stand, today) !== null) return 0;
  return Math.min(row.decidedTaps ?? 0, fewerSinceDecided(row, today)?.taps ?? Infinity);
}

/** Does a tree want a visit in leaf? Maples of open species, and trees that were looked at and left open. */
export function wantsLeafVisit(row: Pick<TreeRow, 'verdict'>): boolean {
  return row.verdict === 'mapleOpen' || row.verdict === 'lookAgain';
}
