import type { LineCrossing } from '@baumkin/core/bush';
import type { CrossingWay } from '@baumkin/core/lines';
import type { SiteFeature } from '@baumkin/core/records';

export const CROSSING_WAY_WORDS: Readonly<Record<CrossingWay, string>> = {
  overhead: 'overhead',
  culvert: 'through a culvert'
};

const CROSSING_WORDS: Readonly<Record<SiteFeature['kind'], (name: string, at: string) => string>> = {
  path: (name, at) => `crosses ${name} at ${at}`,
  fence: (name, at) => `passes ${name} at ${at}: does it chafe`,
  water: (name, at) => `crosses ${name} at ${at}: on a wire of its own`,
  building: (name, at) => `enters ${name} at ${at}`,
  line: (name, at) => `crosses ${name} at ${at}: keep clear of wires`,
  boundary: (name, at) => `leaves by ${name} at ${at}`,
  entrance: (name, at) => `passes ${name} at ${at}`
};

/** How a line crosses something, and what was decided of it. @param at where along the line */
export function crossingWords({ feature, asks, decided }: LineCrossing, at: string): string {
  const what = CROSSING_WORDS[feature.kind](feature.name, at);
  if (!asks) return what;
  if (!decided) return `${what}: over it or through a culvert is not decided`;
  return `${what}, ${CROSSING_WAY_WORDS[decided.how]}${decided.insulated ? ', wrapped' : ''}`;
}

/** What is to be seen to at a crossing as it was decided; null where nothing is. */
export function crossingCare({ decided, fall }: LineCrossing): string | null {
  if (!decided) return null;
  if (decided.how === 'overhead') return 'see that it hangs higher than whatever passes';
  if (fall === null) return decided.insulated ? null : 'wrapped, it would freeze later and thaw earlier';
  if (fall === 'notLevelled') return 'nobody levelled it there: it has to fall all through the culvert';
  if (fall.surety === 'cannotBeTold') return 'whether it falls enough in the culvert cannot be told: level it there';
  return `it ${fall.fault === 'dip' ? 'rises' : 'falls too little'} there: sap stands in the culvert, and freezes where nobody gets at it`;
}
