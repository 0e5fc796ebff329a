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

/** The species that a written name means, or null. */
export function speciesByName(name: string): SpeciesId | null {
  return BY_NAME.get(name.trim().toLowerCase().replace(/\s+/g, ' ')) ?? null;
}
