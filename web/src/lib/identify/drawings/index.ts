import type { CharacterId } from '@baumkin/core/identify';
import { seededRng, seedFrom } from '@baumkin/core/math';

import { bark, lichen, oldBark, rub, stained, tapholes, tone } from './bark.ts';
import { bud, BUDS, budOfColour, grouping, lopsidedBud, stage, stickyBud } from './bud.ts';
import { ground } from './ground.ts';
import { fallenKeys, keys, leafForm, leafMargin, leafNotch, leafUnderside, needles, stalkSap } from './leaf.ts';
import type { Stroke } from './stroke.ts';
import { crown, smell, stoutness, twig, twigOfColour } from './twig.ts';

export type { Stroke } from './stroke.ts';

/**
 * The drawing of a character's state, made from parameters in a square of 100 by 100. It is the same each time: its
 * jitter is seeded by its name.
 */
export function drawingOf(character: CharacterId, state: string): readonly Stroke[] {
  const rng = seededRng(seedFrom(`${character}/${state}`));
  const yes = state === 'yes';
  switch (character) {
    case 'arrangement':
      return twig(state === 'opposite');
    case 'twigStoutness':
      return stoutness(state);
    case 'twigColour':
      return twigOfColour(state);
    case 'twigSmell':
      return smell(state);
    case 'budShape':
      if (state === 'sticky') return stickyBud();
      if (state === 'lopsided') return lopsidedBud();
      return bud(BUDS[state] ?? BUDS.sharpScaly!);
    case 'budColour':
      return budOfColour(state);
    case 'budGrouping':
      return grouping(state);
    case 'budStage':
      return stage(state === 'swollen');
    case 'barkYoung':
    case 'barkGrown':
      return bark(state, rng);
    case 'barkOld':
      return oldBark(state, rng);
    case 'rub':
      return rub(state, rng);
    case 'barkTone':
      return tone(state);
    case 'leafForm':
      return leafForm(state);
    case 'leafNotch':
      return leafNotch(state);
    case 'leafMargin':
      return leafMargin(state);
    case 'leafUnderside':
      return leafUnderside(state);
    case 'milkySap':
      return stalkSap(state === 'milky');
    case 'keysHanging':
      return keys(state);
    case 'keys':
      return fallenKeys(state);
    case 'twigsFrom':
      return twig(state === 'own');
    case 'heldLeaves':
      return state === 'green' ? needles() : crown({ leaves: state === 'many' });
    case 'elbows':
      return crown({ bent: yes });
    case 'lichen':
      return lichen(yes, rng);
    case 'staining':
      return stained(yes, rng);
    case 'oldTapholes':
      return tapholes(yes, rng);
    case 'ground':
      return ground(state);
  }
}

/** Patches of bark are cut off straight at their edges. */
export function isFramed(character: CharacterId): boolean {
  return ['barkYoung', 'barkGrown', 'barkOld', 'lichen', 'staining', 'oldTapholes'].includes(character);
}
