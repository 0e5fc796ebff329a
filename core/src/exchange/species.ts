import { SPECIES, type SpeciesId } from '../identify/index.ts';

/** What people write for a species, beside its id, name and Latin name. */
const ALIASES: Readonly<Record<string, SpeciesId>> = {
  sugar: 'sugarMaple',
  'hard maple': 'sugarMaple',
  'rock maple': 'sugarMaple',
  'soft maple': 'redMaple',
  'swamp maple': 'redMaple',
  red: 'redMaple',
  silver: 'silverMaple',
  black: 'blackMaple',
  norway: 'norwayMaple',
  boxelder: 'boxElder',
  'ash-leaved maple': 'boxElder',
  moosewood: 'stripedMaple',
  ash: 'whiteAsh',
  'white ash': 'whiteAsh',
  'green ash': 'whiteAsh',
  fraxinus: 'whiteAsh',
  'fraxinus americana': 'whiteAsh',
  'fraxinus pennsylvanica': 'whiteAsh',
  'white birch': 'paperBirch',
  'shagbark hickory': 'hickory',
  'bitternut hickory': 'hickory',
  buckeye: 'horseChestnut',
  'horse chestnut': 'horseChestnut',
  oak: 'redOak',
  linden: 'basswood',
  'american beech': 'beech',
  birch: 'yellowBirch',
  cherry: 'blackCherry',
  ironwood: 'hophornbeam',
  poplar: 'aspen',
  'american elm': 'elm'
};

const BY_NAME = new Map<string, SpeciesId>([
  ...SPECIES.flatMap((s): [string, SpeciesId][] => [
    [s.id.toLowerCase(), s.id],
    [s.name.toLowerCase(), s.id],
    [s.latin.toLowerCase(), s.id]
  ]),
  ...Object.entries(ALIASES)
]);

/**
 * Short words of lists and the symbols of the national plant list of the United States (from memory). They can mean something
 * else where another hand wrote them, so they are proposed and shown.
 */
const SHORT: ReadonlyMap<string, SpeciesId> = new Map(
  Object.entries({
    sm: 'sugarMaple',
    acsa3: 'sugarMaple',
    acsa: 'sugarMaple',
    hm: 'sugarMaple',
    rm: 'redMaple',
    acru: 'redMaple',
    acsa2: 'silverMaple',
    silv: 'silverMaple',
    bm: 'blackMaple',
    acni5: 'blackMaple',
    nm: 'norwayMaple',
    acpl: 'norwayMaple',
    be: 'boxElder',
    acne2: 'boxElder',
    acpe: 'stripedMaple',
    wa: 'whiteAsh',
    fram2: 'whiteAsh',
    ab: 'beech',
    fagr: 'beech',
    yb: 'yellowBirch',
    beal2: 'yellowBirch',
    pb: 'paperBirch',
    bepa: 'paperBirch',
    ro: 'redOak',
    quru: 'redOak',
    bc: 'blackCherry',
    prse2: 'blackCherry',
    bw: 'basswood',
    tiam: 'basswood',
    osvi: 'hophornbeam'
  } as const)
);

/** What a word of a species column says: a species, a maple of some kind, or that nobody settled it. */
export type SpeciesSaid = SpeciesId | 'mapleOpen' | 'open';

/** Words for a tree of which nobody settled what it is. */
const NOT_SETTLED = /^(\?+|unknown|unk|n\/?a|-+|not sure|unsure)$/;

/** A word as species columns are compared by. */
export const speciesWord = (written: string) => written.trim().toLowerCase().replace(/\s+/g, ' ');

/**
 * What a word of a species column says.
 * @returns `sure` where it names one species and no other; else it is a proposal; null where nothing is known of it
 */
export function speciesInWord(written: string): { readonly said: SpeciesSaid; readonly sure: boolean } | null {
  const word = speciesWord(written);
  const named = speciesByName(word);
  if (named) return { said: named, sure: true };
  if (/^(a |some )?maple( species| sp\.?| spp\.?)?$|^acer( sp\.?| spp\.?)?$/.test(word))
    return { said: 'mapleOpen', sure: true };
  if (NOT_SETTLED.test(word)) return { said: 'open', sure: false };
  const latin = /^([a-z])\.? ([a-z]{4,})$/.exec(word);
  const meant =
    latin &&
    SPECIES.filter(
      ({ latin: of }) => of.toLowerCase().startsWith(latin[1]!) && of.toLowerCase().endsWith(` ${latin[2]!}`)
    );
  if (meant?.length === 1) return { said: meant[0]!.id, sure: true };
  const short = SHORT.get(word.replace(/[. -]/g, ''));
  return short ? { said: short, sure: false } : null;
}

/** The species that a written name means, or null. */
export function speciesByName(name: string): SpeciesId | null {
  return BY_NAME.get(name.trim().toLowerCase().replace(/\s+/g, ' ')) ?? null;
}
