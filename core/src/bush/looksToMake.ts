import { pointAlong } from '../geometry/index.ts';
import type { Missing, TapFault } from '../lines/index.ts';
import type { TreeRow } from '../records/index.ts';
import { METRES_A_MINUTE } from './collecting.ts';
import type { LinePiece, MissingSap } from './missingSap.ts';

/** A place to look at: a tree whose taps may give nothing, or a piece of a line that may leak. */
export interface LineLookWorth {
  readonly what: { readonly row: TreeRow; readonly lineId: string } | { readonly piece: LinePiece };
  /** chance that something is found there, and of each fault of a tap */
  readonly chance: number;
  readonly faults: Readonly<Record<TapFault, number>>;
  /** litres that the rest of the season is to be expected to bring more if it is mended today, whatever is found */
  readonly litres: number;
  /** minutes to look and mend, the way there aside */
  readonly minutes: number;
  /** where it lies, metres east and north; null where nobody knows */
  readonly at: readonly [eastM: number, northM: number] | null;
  /** what it loses of what runs through it, and the day of the year since which, if it leaks; null for a tap */
  readonly leak: { readonly share: number; readonly since: number } | null;
}

/** A walk past the places that are worth it. */
export interface LooksToMake {
  /** in walking order, from the tank on */
  readonly looks: readonly LineLookWorth[];
  readonly minutes: number;
  /** to be expected of it, litres */
  readonly litres: number;
}

/** Minutes at a tap, and at a leak once it is found. Working assumptions. */
const MINUTES = { tap: 2, leak: 4 } as const;
/** Of dry taps so many only sit loose or are plugged, and run when they are set anew. Working assumption. */
const DRY_MENDED = 0.2;
/** Litres that a tap still brings where no year's weather is known: about half of a season. From memory. */
export const USUALLY_LEFT = 20;
/** A walk past more places is a round of the whole. Working assumption. */
const MOST_LOOKS = 12;
/** What is less likely is not gone to for its own sake. Working assumption. */
const LEAST_CHANCE = 0.05;

/**
 * Everything that may be wrong, what is worth most in the rest of the season first.
 * @param leftLitres that a usual tap still brings this season
 */
export function looksWorth({ taps, pieces, task }: MissingSap, told: Missing, leftLitres: number): LineLookWorth[] {
  const byTree = new Map<string, number[]>();
  for (const [i, { row }] of taps.entries()) byTree.set(row.id, [...(byTree.get(row.id) ?? []), i]);
  const trees = [...byTree.values()].map((of): LineLookWorth => {
    const { row, lineId } = taps[of[0]!]!;
    const any = (chance: (tap: number) => number) => 1 - of.reduce((none, tap) => none * (1 - chance(tap)), 1);
    return {
      what: { row, lineId },
      chance: any((tap) => told.taps[tap]!.dry + told.taps[tap]!.notSet),
      faults: { dry: any((tap) => told.taps[tap]!.dry), notSet: any((tap) => told.taps[tap]!.notSet) },
      litres: of.reduce(
        (sum, tap) =>
          sum + leftLitres * task.taps[tap]!.weight * (told.taps[tap]!.notSet + DRY_MENDED * told.taps[tap]!.dry),
        0
      ),
      minutes: MINUTES.tap * of.length,
      at: row.eastM === null || row.northM === null ? null : [row.eastM, row.northM],
      leak: null
    };
  });
  const leaks = pieces.map((piece): LineLookWorth => {
    const through = taps.reduce((sum, _, tap) => {
      const { weight, path } = task.taps[tap]!;
      const { dry, notSet } = told.taps[tap]!;
      return path.includes(piece.sites[0]!) ? sum + weight * (1 - dry - notSet) : sum;
    }, 0);
    const sites = piece.sites.map((site) => told.sites[site]!);
    const chance = 1 - sites.reduce((none, { leaks: here }) => none * (1 - here), 1);
    const lost = sites.reduce((sum, { leaks: here, share }) => sum + here * share, 0);
    const worst = sites.reduce((a, b) => (b.leaks > a.leaks ? b : a));
    return {
      what: { piece },
      chance,
      faults: { dry: 0, notSet: 0 },
      litres: leftLitres * through * Math.min(1, lost),
      minutes: MINUTES.leak + (piece.toM - piece.fromM) / METRES_A_MINUTE,
      at: pointAlong(piece.line.points, (piece.fromM + piece.toM) / 2),
      leak: { share: worst.share, since: worst.since }
    };
  });
  return [...trees, ...leaks].filter(({ chance }) => chance > 0).sort((a, b) => b.litres - a.litres);
}

/**
 * The shortest walk past what is worth it: place after place, each where it makes the walk least longer, the one first that brings
 * most for each minute, as long as that is more than somebody's time is worth.
 * @param from where it begins, metres east and north: the tank
 * @param litresAnHour for which an hour of somebody is worth it
 */
export function looksToMake(
  worth: readonly LineLookWorth[],
  { from, litresAnHour }: { readonly from: readonly [eastM: number, northM: number]; readonly litresAnHour: number }
): LooksToMake {
  const left = worth.filter(({ chance }) => chance >= LEAST_CHANCE);
  const walk: LineLookWorth[] = [];
  const way = (a: Pick<LineLookWorth, 'at'> | undefined, b: Pick<LineLookWorth, 'at'> | undefined) =>
    a?.at && b?.at ? Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) / METRES_A_MINUTE : 0;
  let minutes = 0;
  while (walk.length < MOST_LOOKS) {
    let best: { look: LineLookWorth; place: number; adds: number } | null = null;
    for (const look of left)
      for (let place = 0; place <= walk.length; place++) {
        const [before, after] = [walk[place - 1] ?? { at: from }, walk[place]];
        const adds = look.minutes + way(before, look) + way(look, after) - way(before, after);
        if (!best || look.litres / adds > best.look.litres / best.adds) best = { look, place, adds };
      }
    if (!best || (60 * best.look.litres) / best.adds < litresAnHour) break;
    walk.splice(best.place, 0, best.look);
    left.splice(left.indexOf(best.look), 1);
    minutes += best.adds;
  }
  return { looks: walk, minutes, litres: walk.reduce((sum, { litres }) => sum + litres, 0) };
}
