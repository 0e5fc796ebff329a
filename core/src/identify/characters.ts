import type { SpeciesId } from './species.ts';

/** How old the tree's bark looks; bark is judged by the table of its age. */
export type AgeClass = 'young' | 'grown';

/** How far a character may be trusted. */
export type CharacterStrength = 'gate' | 'strong' | 'weak';

export interface CharacterState {
  readonly id: string;
  readonly label: string;
  readonly description: string;
}

export interface Character {
  readonly id: CharacterId;
  readonly name: string;
  /** what the steward is asked */
  readonly question: string;
  readonly strength: CharacterStrength;
  /** characters of one block see the same thing and are not counted as if independent */
  readonly block: string | null;
  /** the age class it holds for; null for both */
  readonly age: AgeClass | null;
  /** chance that an honest look reports what is there, 0..1; the rest is spread evenly over the states */
  readonly reliability: number;
  readonly states: readonly CharacterState[];
  /** share of trees of a species that show each state; states left out count as 0, species left out as even */
  readonly seen: Readonly<Partial<Record<SpeciesId, Readonly<Record<string, number>>>>>;
}

export type CharacterId =
  'arrangement' | 'budShape' | 'budColour' | 'barkYoung' | 'barkGrown' | 'rub' | 'staining' | 'oldTapholes';

/**
 * Characters, states and likelihoods. Shares are working assumptions made from common botanical descriptions (from
 * memory); calibrate them with the bush's own settled trees.
 */
export const CHARACTERS: readonly Character[] = [
  {
    id: 'arrangement',
    name: 'Branching',
    question: 'How do twigs and buds sit on the branch? Look in several places: a lost partner leaves a scar.',
    strength: 'gate',
    block: null,
    age: null,
    reliability: 0.97,
    states: [
      { id: 'opposite', label: 'Opposite', description: 'in pairs, facing each other' },
      { id: 'alternate', label: 'Alternate', description: 'one by one, left and right by turns' }
    ],
    seen: {
      sugarMaple: { opposite: 1 },
      blackMaple: { opposite: 1 },
      redMaple: { opposite: 1 },
      silverMaple: { opposite: 1 },
      norwayMaple: { opposite: 1 },
      boxElder: { opposite: 1 },
      stripedMaple: { opposite: 1 },
      whiteAsh: { opposite: 1 },
      horseChestnut: { opposite: 1 },
      dogwood: { opposite: 0.9, alternate: 0.1 },
      redOak: { alternate: 1 },
      basswood: { alternate: 1 },
      beech: { alternate: 1 },
      yellowBirch: { alternate: 1 },
      blackCherry: { alternate: 1 },
      hophornbeam: { alternate: 1 },
      aspen: { alternate: 1 },
      elm: { alternate: 1 }
    }
  },
  {
    id: 'budShape',
    name: 'Bud shape',
    question: 'What shape is the bud at the tip of the twig?',
    strength: 'strong',
    block: 'bud',
    age: null,
    reliability: 0.92,
    states: [
      { id: 'sharpScaly', label: 'Sharp, many scales', description: 'slim and pointed, a big one between two small' },
      { id: 'roundedClustered', label: 'Rounded, clustered', description: 'blunt little balls, often in bunches' },
      { id: 'largeBlunt', label: 'Large and blunt', description: 'thick, few broad scales' },
      { id: 'domed', label: 'Dark dome', description: 'broad, leathery, on a stout blunt twig' },
      { id: 'stalked', label: 'On a stalk', description: 'few scales, set on a short stalk' },
      { id: 'downy', label: 'Downy', description: 'covered in whitish down' },
      { id: 'longSpear', label: 'Long spear', description: 'very long, thin as a cigar' }
    ],
    seen: {
      sugarMaple: { sharpScaly: 0.95, roundedClustered: 0.03, largeBlunt: 0.02 },
      blackMaple: { sharpScaly: 0.85, downy: 0.1, largeBlunt: 0.05 },
      redMaple: { roundedClustered: 0.94, sharpScaly: 0.04, largeBlunt: 0.02 },
      silverMaple: { roundedClustered: 0.97, sharpScaly: 0.03 },
      norwayMaple: { largeBlunt: 0.92, sharpScaly: 0.03, roundedClustered: 0.05 },
      boxElder: { downy: 0.9, largeBlunt: 0.05, roundedClustered: 0.05 },
      stripedMaple: { stalked: 0.95, largeBlunt: 0.05 },
      whiteAsh: { domed: 0.96, roundedClustered: 0.02, largeBlunt: 0.02 },
      horseChestnut: { largeBlunt: 0.95, domed: 0.05 },
      dogwood: { stalked: 0.55, sharpScaly: 0.15, roundedClustered: 0.2, downy: 0.1 },
      redOak: { sharpScaly: 0.55, roundedClustered: 0.4, largeBlunt: 0.05 },
      basswood: { roundedClustered: 0.2, largeBlunt: 0.75, domed: 0.05 },
      beech: { longSpear: 0.98, sharpScaly: 0.02 },
      yellowBirch: { sharpScaly: 0.85, roundedClustered: 0.1, downy: 0.05 },
      blackCherry: { sharpScaly: 0.7, roundedClustered: 0.3 },
      hophornbeam: { sharpScaly: 0.8, roundedClustered: 0.2 },
      aspen: { sharpScaly: 0.75, largeBlunt: 0.25 },
      elm: { sharpScaly: 0.7, roundedClustered: 0.3 }
    }
  },
  {
    id: 'budColour',
    name: 'Bud and twig colour',
    question: 'What colour are bud and twig?',
    strength: 'strong',
    block: 'bud',
    age: null,
    reliability: 0.88,
    states: [
      { id: 'brown', label: 'Brown', description: 'cinnamon to grey-brown' },
      { id: 'red', label: 'Red', description: 'clear red to wine red' },
      { id: 'greenMaroon', label: 'Green to maroon', description: 'green, or green and purple' },
      { id: 'black', label: 'Dark brown to black', description: 'almost black, dull' }
    ],
    seen: {
      sugarMaple: { brown: 0.93, red: 0.02, black: 0.04, greenMaroon: 0.01 },
      blackMaple: { brown: 0.85, black: 0.13, greenMaroon: 0.02 },
      redMaple: { red: 0.94, brown: 0.04, greenMaroon: 0.02 },
      silverMaple: { red: 0.88, brown: 0.08, greenMaroon: 0.04 },
      norwayMaple: { greenMaroon: 0.85, red: 0.08, brown: 0.07 },
      boxElder: { greenMaroon: 0.85, brown: 0.1, red: 0.05 },
      stripedMaple: { greenMaroon: 0.45, red: 0.5, brown: 0.05 },
      whiteAsh: { brown: 0.35, black: 0.65 },
      horseChestnut: { brown: 0.75, black: 0.25 },
      dogwood: { red: 0.4, greenMaroon: 0.4, brown: 0.2 },
      redOak: { brown: 0.9, red: 0.1 },
      basswood: { red: 0.55, greenMaroon: 0.35, brown: 0.1 },
      beech: { brown: 1 },
      yellowBirch: { brown: 0.8, greenMaroon: 0.2 },
      blackCherry: { brown: 0.8, red: 0.15, black: 0.05 },
      hophornbeam: { brown: 0.6, greenMaroon: 0.4 },
      aspen: { brown: 0.9, red: 0.1 },
      elm: { brown: 0.7, black: 0.3 }
    }
  },
  {
    id: 'barkYoung',
    name: 'Bark of a young tree',
    question: 'What is the bark like? Feel it with the palm.',
    strength: 'strong',
    block: 'bark',
    age: 'young',
    reliability: 0.85,
    states: [
      { id: 'smoothBumps', label: 'Smooth, fine bumps', description: 'grey, fine rough bumps under the palm' },
      { id: 'verySmooth', label: 'Very smooth', description: 'silvery or blue-grey, like skin' },
      { id: 'stripes', label: 'Green with white stripes', description: 'lines run up and down' },
      { id: 'diamonds', label: 'Shallow diamonds', description: 'a net of fine ridges already' },
      { id: 'papery', label: 'Papery curls', description: 'thin bright sheets roll off' },
      { id: 'dashes', label: 'Cross dashes', description: 'short level lines on dark, shiny bark' },
      { id: 'greenish', label: 'Greenish and smooth', description: 'green-grey, chalky or waxy' }
    ],
    seen: {
      sugarMaple: { smoothBumps: 0.78, verySmooth: 0.17, diamonds: 0.05 },
      blackMaple: { smoothBumps: 0.7, verySmooth: 0.15, diamonds: 0.15 },
      redMaple: { verySmooth: 0.62, smoothBumps: 0.33, diamonds: 0.05 },
      silverMaple: { verySmooth: 0.65, smoothBumps: 0.3, diamonds: 0.05 },
      norwayMaple: { smoothBumps: 0.35, diamonds: 0.55, verySmooth: 0.1 },
      boxElder: { greenish: 0.4, diamonds: 0.4, smoothBumps: 0.2 },
      stripedMaple: { stripes: 0.97, greenish: 0.03 },
      whiteAsh: { diamonds: 0.72, smoothBumps: 0.13, greenish: 0.15 },
      horseChestnut: { smoothBumps: 0.5, verySmooth: 0.3, diamonds: 0.2 },
      dogwood: { smoothBumps: 0.4, greenish: 0.3, diamonds: 0.3 },
      redOak: { smoothBumps: 0.3, verySmooth: 0.4, greenish: 0.3 },
      basswood: { smoothBumps: 0.2, verySmooth: 0.35, greenish: 0.35, diamonds: 0.1 },
      beech: { verySmooth: 0.98, smoothBumps: 0.02 },
      yellowBirch: { papery: 0.85, dashes: 0.15 },
      blackCherry: { dashes: 0.95, smoothBumps: 0.05 },
      hophornbeam: { dashes: 0.4, smoothBumps: 0.4, papery: 0.2 },
      aspen: { greenish: 0.8, verySmooth: 0.2 },
      elm: { diamonds: 0.5, smoothBumps: 0.5 }
    }
  },
  {
    id: 'barkGrown',
    name: 'Bark of a grown tree',
    question: 'How are the plates of the bark fastened?',
    strength: 'strong',
    block: 'bark',
    age: 'grown',
    reliability: 0.85,
    states: [
      { id: 'oneEdge', label: 'Plates lift at one edge', description: 'firm, fastened along the other edge' },
      { id: 'strips', label: 'Long straight strips', description: 'loose on both sides, dull grey' },
      { id: 'diamonds', label: 'Tight diamonds', description: 'interlaced or barred ridges, nothing lifts' },
      { id: 'smooth', label: 'Still smooth', description: 'grey and tight, like an elephant' },
      { id: 'papery', label: 'Papery curls', description: 'thin bright sheets roll off' },
      { id: 'burnt', label: 'Burnt scales', description: 'dark, thick flakes with upturned edges' },
      { id: 'shreds', label: 'Fine shreds', description: 'narrow strips, like cat-scratched wood' },
      { id: 'furrows', label: 'Deep furrows', description: 'hard flat ridges with dark grooves' },
      { id: 'stripes', label: 'Green with stripes', description: 'white lines run up and down' }
    ],
    seen: {
      sugarMaple: { oneEdge: 0.74, strips: 0.06, smooth: 0.12, furrows: 0.08 },
      blackMaple: { oneEdge: 0.6, furrows: 0.3, smooth: 0.05, strips: 0.05 },
      redMaple: { strips: 0.72, oneEdge: 0.1, smooth: 0.18 },
      silverMaple: { strips: 0.8, oneEdge: 0.1, smooth: 0.05, furrows: 0.05 },
      norwayMaple: { diamonds: 0.85, furrows: 0.1, oneEdge: 0.05 },
      boxElder: { diamonds: 0.5, furrows: 0.4, strips: 0.1 },
      stripedMaple: { stripes: 0.9, smooth: 0.1 },
      whiteAsh: { diamonds: 0.92, furrows: 0.08 },
      horseChestnut: { oneEdge: 0.3, strips: 0.2, furrows: 0.2, smooth: 0.3 },
      dogwood: { diamonds: 0.3, smooth: 0.3, shreds: 0.1, furrows: 0.3 },
      redOak: { furrows: 0.85, smooth: 0.15 },
      basswood: { furrows: 0.7, strips: 0.25, diamonds: 0.05 },
      beech: { smooth: 1 },
      yellowBirch: { papery: 0.8, strips: 0.05, burnt: 0.1, oneEdge: 0.05 },
      blackCherry: { burnt: 0.96, furrows: 0.04 },
      hophornbeam: { shreds: 0.95, strips: 0.05 },
      aspen: { smooth: 0.45, furrows: 0.55 },
      elm: { diamonds: 0.35, furrows: 0.55, strips: 0.1 }
    }
  },
  {
    id: 'rub',
    name: 'Rub test',
    question: 'Rub the plates hard with a glove. What happens?',
    strength: 'strong',
    block: 'bark',
    age: 'grown',
    reliability: 0.85,
    states: [
      { id: 'holds', label: 'They hold', description: 'firm; nothing comes off' },
      { id: 'chips', label: 'Chips come off', description: 'pieces crumble or snap away' },
      { id: 'peels', label: 'It peels', description: 'thin sheets or shreds pull off' }
    ],
    seen: {
      sugarMaple: { holds: 0.88, chips: 0.11, peels: 0.01 },
      blackMaple: { holds: 0.9, chips: 0.1 },
      redMaple: { chips: 0.8, holds: 0.17, peels: 0.03 },
      silverMaple: { chips: 0.75, holds: 0.1, peels: 0.15 },
      norwayMaple: { holds: 0.97, chips: 0.03 },
      boxElder: { holds: 0.85, chips: 0.15 },
      stripedMaple: { holds: 1 },
      whiteAsh: { holds: 0.9, chips: 0.1 },
      horseChestnut: { holds: 0.4, chips: 0.6 },
      dogwood: { holds: 0.6, chips: 0.4 },
      redOak: { holds: 0.98, chips: 0.02 },
      basswood: { holds: 0.85, chips: 0.15 },
      beech: { holds: 1 },
      yellowBirch: { peels: 0.9, chips: 0.1 },
      blackCherry: { chips: 0.75, holds: 0.25 },
      hophornbeam: { peels: 0.75, chips: 0.25 },
      aspen: { holds: 1 },
      elm: { holds: 0.8, chips: 0.2 }
    }
  },
  {
    id: 'staining',
    name: 'Black staining',
    question: 'Is the bark streaked black, below rows of small holes or in a mouldy film?',
    strength: 'weak',
    block: null,
    age: null,
    reliability: 0.9,
    states: [
      { id: 'yes', label: 'Black streaks', description: 'sooty film below sapsucker holes' },
      { id: 'no', label: 'None', description: 'clean bark' }
    ],
    seen: {
      sugarMaple: { yes: 0.35, no: 0.65 },
      blackMaple: { yes: 0.35, no: 0.65 },
      redMaple: { yes: 0.3, no: 0.7 },
      basswood: { yes: 0.15, no: 0.85 },
      yellowBirch: { yes: 0.25, no: 0.75 },
      whiteAsh: { yes: 0.1, no: 0.9 },
      redOak: { yes: 0.1, no: 0.9 }
    }
  },
  {
    id: 'oldTapholes',
    name: 'Old tapholes',
    question: 'Do you see closed tapholes? (All they say is that somebody thought it was a maple.)',
    strength: 'weak',
    block: null,
    age: null,
    reliability: 0.9,
    states: [
      { id: 'yes', label: 'Tapholes', description: 'round, healed scars at working height' },
      { id: 'no', label: 'None', description: 'none to be seen' }
    ],
    seen: {
      sugarMaple: { yes: 0.5, no: 0.5 },
      blackMaple: { yes: 0.5, no: 0.5 },
      redMaple: { yes: 0.3, no: 0.7 },
      silverMaple: { yes: 0.2, no: 0.8 },
      whiteAsh: { yes: 0.04, no: 0.96 },
      beech: { yes: 0.02, no: 0.98 },
      redOak: { yes: 0.02, no: 0.98 },
      basswood: { yes: 0.03, no: 0.97 },
      yellowBirch: { yes: 0.03, no: 0.97 }
    }
  }
];

export function characterById(id: CharacterId): Character {
  return CHARACTERS.find((character) => character.id === id)!;
}
