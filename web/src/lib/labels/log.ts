import type { BushSettings } from '@baumkin/core/records';

import { counted } from './counted.ts';
import { ROLE_SAYS } from './roles.ts';

/** What sorts of things a bush's log tells of, as its reader chooses among them. */
export const LOG_KINDS = {
  settings: 'settings',
  bush: 'the bush',
  ground: 'the map',
  member: 'people',
  invitation: 'invitations',
  import: 'files brought in',
  importBack: 'files taken back',
  archive: 'archives',
  key: 'keys of programs',
  refusal: 'refusals'
} as const;
export type LogKind = keyof typeof LOG_KINDS;

/** Each of a bush's settings, as the log calls it. */
const SETTINGS: Readonly<Record<keyof BushSettings, string>> = {
  tapGuideline: 'the taphole guideline',
  ownGuideline: 'the own guideline',
  alsoTaps: 'what is tapped besides maples',
  bitMm: 'the bit (mm)',
  depthMm: 'the depth of a hole (mm)',
  lowestMm: 'the lowest hole (mm)',
  highestMm: 'the highest hole (mm)',
  spacingMm: 'the distance between holes (mm)',
  acceptedShare: 'the accepted share of brown wood',
  breastHeightMm: 'breast height (mm)',
  strategy: 'how places are looked for',
  foresight: 'how far ahead is planned',
  angleDeg: 'the slope of a hole (degrees)',
  snowMm: 'the snow (mm)',
  dropMm: 'the drop line (mm)',
  sapwoodMm: 'the sapwood (mm)',
  columnFactor: 'the size of brown columns',
  positionFactor: 'the doubt of places',
  marginFactor: 'the margin',
  hands: 'the doubt of each hand',
  leanDeg: 'the lean of the grain (degrees)',
  leanStands: 'the lean of the grain by stand',
  leanSpecies: 'the lean of the grain by species',
  leanSdDeg: 'the spread of the grain (degrees)',
  wishLitres: 'the wished sap (litres)',
  stainLoss: 'the sap lost in brown wood',
  minutesAHole: 'the minutes a hole takes',
  removalShare: 'the share taken at a thinning',
  stockingGuide: 'the stocking guide',
  coverLeft: 'the cover left',
  othersShare: 'the share of other species',
  openingM: 'the largest opening (m)',
  tapCost: 'the cost of a tap',
  cropSpacingM: 'the distance between crop trees (m)',
  daysAMonth: 'the days a month for the wood',
  quietFrom: 'the quiet weeks from',
  quietTo: 'the quiet weeks to',
  ashBorer: 'the ash borer',
  favours: 'what is favoured',
  favouredDeg: 'the favoured side (degrees)',
  paints: 'the paints',
  paintSince: 'the season of the first paint',
  paintLasts: 'how long paint lasts (seasons)',
  paintPlace: 'where paint is put',
  markPaint: 'the mark for cutting',
  openToVisitors: 'what visitors see',
  visitorWords: 'the words for visitors',
  clueTable: 'the clue table',
  vessel: 'the vessels',
  vacuum: 'vacuum',
  vesselLitres: 'a vessel (litres)',
  carrier: 'how sap is carried',
  people: 'the people who carry',
  hoursADay: 'the hours a day',
  residualM2PerHa: 'the basal area left (m² a hectare)',
  stackedM3ADay: 'the wood stacked a day (m³)',
  brushM3ADay: 'the brush cleared a day (m³)',
  panM2: 'the pan (m²)',
  litresAnHour: 'the boiling (litres an hour)',
  leastLitres: 'the least that is boiled (litres)',
  hangAfterDays: 'the days before vessels hang',
  clearing: 'the clearing of holes',
  finishBrix: 'the finish (Brix)',
  altitudeM: 'the height above the sea (m)'
};

/** One thing that was done: what is kept of it, as JSON. */
export interface Logged {
  readonly kind: string;
  readonly details: unknown;
}

type Details = Readonly<Record<string, unknown>>;
const isDetails = (value: unknown): value is Details => value !== null && typeof value === 'object';
const text = (value: unknown): string => (typeof value === 'string' || typeof value === 'number' ? String(value) : '');

function valueWords(value: unknown): string | null {
  if (value === null) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'object' || value === undefined) return null;
  return text(value) || 'nothing';
}

function settingsWords({ was, ...change }: Details): string {
  const before = isDetails(was) ? was : {};
  const each = Object.entries(change).map(([name, is]) => {
    const [what, now, then] = [SETTINGS[name as keyof BushSettings] ?? name, valueWords(is), valueWords(before[name])];
    if (now === null) return what;
    return then === null || then === now ? `${what} to ${now}` : `${what} from ${then} to ${now}`;
  });
  return each.length === 0 ? 'settings' : `set ${each.join('; ')}`;
}

const nameIn = (value: unknown) => (isDetails(value) ? text(value.name) : '');
const roleWords = (role: unknown) => ROLE_SAYS[role as keyof typeof ROLE_SAYS] ?? text(role);

const WORDS: Readonly<Record<LogKind, (details: Details, nameOf: (id: string) => string) => string>> = {
  settings: settingsWords,
  bush: ({ name, origin, founder, givenUp, archive }, nameOf) => {
    if (archive) return 'made the bush from an archive';
    if (founder) return `passed the founding on to ${nameOf(text(founder))}`;
    if (givenUp === true) return 'gave the bush up';
    if (givenUp === false) return 'took the bush back';
    return [name && `named it "${text(name)}"`, origin && 'said where on earth it lies'].filter(Boolean).join('; ');
  },
  ground: (details) => {
    if ('stand' in details) return `drew the stand "${nameIn(details.stand)}"`;
    if ('feature' in details) return `drew "${nameIn(details.feature)}"`;
    if ('stand taken away' in details) return 'took a stand away';
    if ('feature taken away' in details) return 'took a drawing away';
    return details.baseMap ? 'laid a picture under the map' : 'took the picture from under the map';
  },
  member: ({ joined, member, role }, nameOf) => {
    if (joined) return `came in as ${roleWords(joined)}`;
    const name = nameOf(text(member));
    return role === null ? `took ${name} out` : `made ${name} ${roleWords(role)}`;
  },
  invitation: ({ invitation }) =>
    isDetails(invitation)
      ? `asked ${text(invitation.note) || 'somebody'} in as ${roleWords(invitation.role)}`
      : 'ended an invitation',
  import: (details) => {
    const told = isDetails(details.import) ? details.import : {};
    const counts = isDetails(told.counts) ? told.counts : {};
    return `brought in "${text(told.name) || 'a file'}": ${counted(Number(counts.newTrees ?? 0), 'new tree')}`;
  },
  importBack: () => 'took a file back',
  archive: ({ archive, trees, records, told, by, at }, nameOf) => {
    if (isDetails(told))
      return `${text(by)}, ${text(at).slice(0, 10)}, as the archive says: ${logWords(told as unknown as Logged, nameOf)}`;
    return archive === 'in'
      ? `read an archive: ${counted(Number(trees), 'tree')}, ${counted(Number(records), 'record')}`
      : 'took the archive out';
  },
  key: ({ key, mayWrite, keyBack }) =>
    keyBack
      ? `took back the key "${text(keyBack)}"`
      : `made the key "${text(key)}", which ${mayWrite ? 'reads and writes' : 'reads'}`,
  refusal: ({ refused, role }) => `was refused as ${roleWords(role)}: ${text(refused)}`
};

/** What was done, in a sentence without its beginning, which is who did it. @param nameOf a person by her id */
export function logWords({ kind, details }: Logged, nameOf: (id: string) => string): string {
  return Object.hasOwn(WORDS, kind) && isDetails(details)
    ? WORDS[kind as LogKind](details, nameOf)
    : 'changed something';
}
