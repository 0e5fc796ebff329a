import { STATIONS } from '@baumkin/core/records';

/** The stations of the trail, and the life of a tree that runs through all of them. */
export function match(param: string): boolean {
  return param === 'life' || (STATIONS as readonly string[]).includes(param);
}
