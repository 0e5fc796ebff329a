import { median } from '../math/index.ts';
import {
  type GaugeRead,
  type LeakSite,
  type MissingTask,
  type SapThatCame,
  type TapBehind,
  type TapFault
} from '../lines/index.ts';
import type {
  BushRecord,
  BushSettings,
  CollectingPlaceRecord,
  LineLookRecord,
  LineReadingRecord,
  PipeLineRecord,
  TreeRow
} from '../records/index.ts';
import { calibrate, logExpected } from '../season/index.ts';
import { placeAlong } from '../geometry/index.ts';
import { collectionsToLearn } from './collecting.ts';
import { pipeLinesIn } from './pipeLines.ts';
import { PipeNet, tapsOnLines } from './pipeNet.ts';
import { dayOfSeason } from './seasonOutlook.ts';
import { chancesOf, FOUND, givesBy, isTapFault, OVERLOOKED } from './tapChances.ts';
import type { BushWeather } from './weather.ts';

/** A tap behind lines: of a tree, and the line that it hangs on. */
export interface LineTap {
  readonly row: TreeRow;
  readonly lineId: string;
}

/** A part of a line that may leak. */
export interface LinePiece {
  readonly line: PipeLineRecord;
  readonly fromM: number;
  readonly toM: number;
  /** sites of the task that stand for it: before it was looked at or mended, and after */
  readonly sites: readonly number[];
}

/** What may be wrong behind the lines of a bush, as a task, and what its numbers stand for. */
export interface MissingSap {
  readonly task: MissingTask;
  /** of each tap of the task */
  readonly taps: readonly LineTap[];
  readonly pieces: readonly LinePiece[];
  /** of each question of the task: a tank with lines, then each line by itself */
  readonly asked: readonly ({ readonly place: CollectingPlaceRecord } | { readonly line: PipeLineRecord })[];
  /** collections and readings of the season that say something of the lines */
  readonly told: number;
}

/** A main line or spur is told apart in pieces of so many metres at the most, or from gauge to gauge. Working assumption. */
const PIECE_M = 60;
/** A lateral with its fittings leaks at some time in a season with such a chance, and a metre of wider pipe. Working assumptions. */
const LEAKS = { lateral: 0.06, metre: 0.001 } as const;
/** The bush's own leaks count against what is assumed as if so many were known already. Working assumption. */
const KNOWN_LEAKS = 3;
/** A trunk gives by its width to such a power, within factors. Working assumption. */
const BY_WIDTH = { power: 0.5, least: 0.7, most: 1.4 } as const;
/** Trees of one line differ from what is known of them, as a logarithm, 1 sd. Working assumption. */
const TREE_SD = 0.25;
/** What a collection strays by is by so much the day's, the weather read wrong for all places alike. Working assumption. */
const OF_THE_DAY = 0.7;
/** Sap that is timed: how far one timing strays, and how far a best hour is known, as a logarithm, 1 sd. Working assumptions. */
const TIMED = { sd: 0.15, hourSd: 1.5 } as const;
/** Litres that a tap gives in an hour of a good run: four in six hours. Working assumption; what differs between lines does not hang on it. */
const LITRES_AN_HOUR = 4 / 6;
/** The day of the year on which lines are begun to be looked after, counted from 0. */
const SEASON_FROM = 14;

/** What the task is put together from. */
export interface MissingQuestion {
  /** of the bush that hold */
  readonly records: readonly BushRecord[];
  readonly rows: readonly TreeRow[];
  readonly weather: Pick<BushWeather, 'past'>;
  readonly settings: Pick<BushSettings, 'vessel' | 'vacuum' | 'stainLoss'>;
  readonly season: number;
  /** ISO date */
  readonly today: string;
}

/** What may be wrong behind the lines of a bush this season. @returns null where no tapped tree hangs on a line that ends at a tank */
export function missingSap(of: MissingQuestion): MissingSap | null {
  const behind = new BehindLines(of);
  return behind.taps.length > 0 ? behind.told() : null;
}

class BehindLines {
  readonly #of: MissingQuestion;
  readonly #net: PipeNet;
  readonly #today: number;
  /** the tank at the foot of each line that has one */
  readonly #tanks: ReadonlyMap<string, CollectingPlaceRecord>;
  readonly #readings: readonly LineReadingRecord[];
  readonly #looks: readonly LineLookRecord[];
  readonly taps: readonly LineTap[];
  readonly #sites: LeakSite[] = [];
  /** where on its line each site lies, metres */
  readonly #siteAt: number[] = [];
  readonly #pieces: readonly LinePiece[];
  readonly #together: number[] = [];

  constructor(of: MissingQuestion) {
    this.#of = of;
    const { records, rows, season, today } = of;
    // The day's own records lie within it.
    this.#today = dayOfSeason(today, season) + 1;
    const lines = pipeLinesIn(records).filter(({ use }) => use !== 'air');
    this.#net = new PipeNet(lines);
    const places = new Map(
      records.flatMap((record) => (record.kind === 'collectingPlace' ? [[record.id, record] as const] : []))
    );
    this.#tanks = new Map(
      lines.flatMap(({ id }) => {
        const place = places.get(this.#net.foot(id).placeId ?? '');
        return place ? [[id, place] as const] : [];
      })
    );
    const inSeason = <R extends BushRecord>(record: R) => record.on.startsWith(String(season)) && record.on <= today;
    this.#readings = records.filter(
      (record): record is LineReadingRecord => record.kind === 'lineReading' && inSeason(record)
    );
    this.#looks = records.filter((record): record is LineLookRecord => record.kind === 'lineLook' && inSeason(record));
    const byId = new Map(rows.map((row) => [row.id, row]));
    // Spouts that are out say nothing more, nor do trees that came down.
    const runs = (row: TreeRow | undefined): row is TreeRow =>
      row !== undefined && !row.cut && !(row.pulledSeason === season && row.pulledSpouts >= row.drilled);
    const onLines = tapsOnLines(lines, (id) => (runs(byId.get(id)) ? byId.get(id)!.drilled : 0));
    this.taps = lines.flatMap(({ id }) =>
      this.#tanks.has(id)
        ? onLines
            .get(id)!
            .flatMap(({ treeId, taps }) => Array.from({ length: taps }, () => ({ row: byId.get(treeId)!, lineId: id })))
        : []
    );
    this.#pieces = lines.filter(({ id }) => this.#tanks.has(id)).flatMap((line) => this.#piecesOf(line));
  }

  told(): MissingSap {
    const { taps } = this;
    const numbers = taps.map((_, tap) => tap);
    const lines = [...new Set(taps.map(({ lineId }) => lineId))];
    const sums = [...this.#collected(), ...this.#timed()];
    const asked = [
      ...[...new Set(this.#tanks.values())].map((place) => ({
        place,
        taps: numbers.filter((tap) => this.#tanks.get(taps[tap]!.lineId) === place),
        through: new Set(this.#sites.keys())
      })),
      ...this.#net.lines
        .filter(({ id }) => this.#net.above(id).some((line) => lines.includes(line.id)))
        .map((line) => ({ line, taps: this.#tapsAbove(line.id), through: this.#through(line.id) }))
    ].filter(({ taps: any }) => any.length > 0);
    const task: MissingTask = {
      taps: this.#tapsBehind(),
      sites: this.#sites,
      came: sums,
      together: this.#together,
      gauges: this.#gauges(),
      today: this.#today,
      asked: asked.map(({ taps: any, through }) => ({ taps: any, through }))
    };
    return {
      task,
      taps,
      pieces: this.#pieces,
      asked: asked.map((each) => ('place' in each ? { place: each.place } : { line: each.line })),
      told: sums.filter(({ taps: any }) => any.length > 0).length + this.#readings.length
    };
  }

  /** When something was written down: the day of the year, and of one day one after the other. */
  #when({ on, recordedAt }: BushRecord): number {
    const sameDay = [...this.#readings, ...this.#looks].filter((other) => other.on === on);
    const before = sameDay.filter((other) => other.recordedAt < recordedAt).length;
    return dayOfSeason(on, this.#of.season) + (before + 1) / (sameDay.length + 2);
  }

  /** The pieces of a line, and the sites that stand for each: one for each time in which it may have leaked unseen. */
  #piecesOf(line: PipeLineRecord): LinePiece[] {
    const lengthM = this.#net.lengthM(line.id);
    const gauges = this.#readings.flatMap(({ lineId, gauges: read }) =>
      lineId === line.id ? read.map(({ alongM }) => Math.round(alongM)) : []
    );
    const cuts = [...new Set(gauges)].filter((at) => at > 1 && at < lengthM - 1).sort((a, b) => a - b);
    const ends =
      line.use === 'lateral' ? [0, lengthM] : [0, ...cuts, lengthM].flatMap((at, i, all) => inPieces(all[i - 1], at));
    const learned = this.#leaksLearned();
    return ends.slice(1).map((toM, i) => {
      const fromM = ends[i]!;
      const usual = learned * (line.use === 'lateral' ? LEAKS.lateral : LEAKS.metre * (toM - fromM));
      const looks = this.#looks.filter(
        ({ lineId, ofTreeId, alongM }) =>
          lineId === line.id && ofTreeId === null && (alongM === null || (alongM >= fromM && alongM <= toM))
      );
      return { line, fromM, toM, sites: this.#sitesFor(Math.min(0.5, usual), looks, (fromM + toM) / 2) };
    });
  }

  #sitesFor(usual: number, looks: readonly LineLookRecord[], middleM: number): number[] {
    const sites: (LeakSite & { readonly atM: number })[] = [];
    let [from, open] = [SEASON_FROM, usual];
    for (const look of looks) {
      const day = this.#when(look);
      if (LETS_AIR_IN.has(look.found)) {
        sites.push({ chance: FOUND, from, until: look.mended ? day : Infinity, atM: look.alongM ?? middleM });
        [from, open] = [day, usual];
      } else if (look.found === 'nothing') {
        // It may have been overlooked; since then it may have begun.
        sites.push({ chance: open * OVERLOOKED, from, until: Infinity, atM: middleM });
        [from, open] = [day, usual];
      }
    }
    sites.push({ chance: open, from: Math.min(from, this.#today), until: Infinity, atM: middleM });
    return sites.map(({ atM, ...site }) => {
      this.#siteAt.push(atM);
      return this.#sites.push(site) - 1;
    });
  }

  /** By how much more often this bush's lines leak than is assumed: from seasons before of which looks are known. */
  #leaksLearned(): number {
    const looks = this.#of.records.filter(
      (record): record is LineLookRecord =>
        record.kind === 'lineLook' && record.on < `${this.#of.season}` && record.ofTreeId === null
    );
    const seasons = new Set(looks.map(({ on }) => on.slice(0, 4))).size;
    const expected =
      seasons *
      this.#net.lines.reduce(
        (sum, { id, use }) => sum + (use === 'lateral' ? LEAKS.lateral : LEAKS.metre * this.#net.lengthM(id)),
        0
      );
    const found = looks.filter((look) => LETS_AIR_IN.has(look.found)).length;
    return (KNOWN_LEAKS + found) / (KNOWN_LEAKS + expected);
  }

  /** Sites on a line and on all that run into it. */
  #through(lineId: string): ReadonlySet<number> {
    const above = new Set(this.#net.above(lineId).map(({ id }) => id));
    return new Set(this.#pieces.flatMap(({ line, sites }) => (above.has(line.id) ? sites : [])));
  }

  #tapsAbove(lineId: string): number[] {
    const above = new Set(this.#net.above(lineId).map(({ id }) => id));
    return this.taps.flatMap((tap, i) => (above.has(tap.lineId) ? i : []));
  }

  #tapsBehind(): TapBehind[] {
    const { season, settings } = this.#of;
    const widths = this.taps.flatMap(({ row }) => row.dbhMm ?? []);
    const usual = widths.length > 0 ? median(widths) : 1;
    const reported = this.taps.filter(({ row }) => row.hungSeason === season).length / this.taps.length;
    return this.taps.map(({ row, lineId }): TapBehind => {
      const line = this.#net.lines.find(({ id }) => id === lineId)!;
      const joins =
        line.use === 'lateral' || row.eastM === null || row.northM === null
          ? 0
          : placeAlong([row.eastM, row.northM], line.points).alongM;
      const way = this.#net.way(lineId, joins);
      const looks = this.#looks.filter(({ ofTreeId }) => ofTreeId === row.id);
      const mended = looks.filter(({ found, mended: isMended }) => isMended && isTapFault(found)).at(-1);
      return {
        weight:
          givesBy(row, settings.stainLoss) *
          Math.min(
            BY_WIDTH.most,
            Math.max(BY_WIDTH.least, row.dbhMm === null ? 1 : (row.dbhMm / usual) ** BY_WIDTH.power)
          ),
        path: this.#pieces.flatMap(({ line: { id }, fromM, toM, sites }) =>
          way.some((piece) => piece.lineId === id && piece.fromM <= (fromM + toM) / 2) ? sites : []
        ),
        chances: chancesOf(row, { season, reported, looks }),
        ...(mended && { mended: { fault: mended.found as TapFault, day: this.#when(mended) } })
      };
    });
  }

  /** What strays together gets a number. */
  #strays(sd: number): number {
    return this.#together.push(sd) - 1;
  }

  /** What was emptied this season: of tanks with lines, and of all other places, by what former seasons let expect. */
  #collected(): SapThatCame[] {
    const { records, weather, settings, season } = this.#of;
    const all = collectionsToLearn(records, weather, settings);
    const known = calibrate(all.filter((each) => each.season < season));
    const now = all.filter((each) => each.season === season && each.record.on <= this.#of.today && each.share > 0);
    if (now.length === 0) return [];
    const expected = now.map((each) => logExpected(each, each, known));
    const level = this.#strays(Math.hypot(expected[0]!.levelSd, expected[0]!.seasonSd));
    const [places, days] = [new Map<string, number>(), new Map<string, number>()];
    const numbered = (of: Map<string, number>, key: string, sd: number) => {
      if (!of.has(key)) of.set(key, this.#strays(sd));
      return of.get(key)!;
    };
    return now.map((each, i): SapThatCame => {
      const { centre, placeSd, daySd } = expected[i]!;
      const taps = this.taps.flatMap((tap, i) =>
        this.#tanks.get(tap.lineId)?.id === each.place && isDrilledBy(tap, each.record.on) ? i : []
      );
      return {
        taps,
        besides: Math.max(0, each.taps - taps.length),
        through: new Set(this.#sites.keys()),
        // The middle of a day.
        day: each.middle + 0.5,
        litres: each.litres,
        usualLitres: Math.exp(centre),
        sd: daySd * Math.sqrt(1 - OF_THE_DAY ** 2),
        with: [level, numbered(places, each.place, placeSd), numbered(days, each.record.on, daySd * OF_THE_DAY)]
      };
    });
  }

  /** Lines that were timed at their foot: told by how they differ from others of the same hour, and from themselves. */
  #timed(): SapThatCame[] {
    const [hours, lines] = [new Map<string, number>(), new Map<string, number>()];
    return this.#readings.flatMap((reading): SapThatCame[] => {
      const { lineId, on, hour, litres, minutes } = reading;
      const taps = this.#tapsAbove(lineId).filter((tap) => isDrilledBy(this.taps[tap]!, on));
      if (litres === null || minutes === null || taps.length === 0) return [];
      const run = `${on} ${Math.floor(hour)} ${this.#tanks.get(lineId)?.id}`;
      if (!hours.has(run)) hours.set(run, this.#strays(TIMED.hourSd));
      if (!lines.has(lineId)) lines.set(lineId, this.#strays(TREE_SD / Math.sqrt(taps.length)));
      return [
        {
          taps,
          besides: 0,
          through: this.#through(lineId),
          day: this.#when(reading),
          litres: (60 * litres) / minutes,
          usualLitres: LITRES_AN_HOUR,
          sd: TIMED.sd,
          with: [hours.get(run)!, lines.get(lineId)!]
        }
      ];
    });
  }

  #gauges(): GaugeRead[] {
    const occasions: string[] = [];
    return this.#readings.flatMap((reading) =>
      reading.gauges.map(({ alongM, kPa }): GaugeRead => {
        const { lineId, on, hour } = reading;
        const way = this.#net.way(lineId, alongM);
        const occasion = `${on} ${Math.floor(hour)} ${way.at(-1)!.lineId}`;
        if (!occasions.includes(occasion)) occasions.push(occasion);
        const sharedM = this.#sites.map(() => 0);
        for (const { line, sites } of this.#pieces)
          for (const site of sites) sharedM[site] = this.#net.sharedM(way, this.#net.way(line.id, this.#siteAt[site]!));
        return {
          kPa,
          day: this.#when(reading),
          occasion: occasions.indexOf(occasion),
          distanceM: this.#net.sharedM(way, way),
          sharedM
        };
      })
    );
  }
}

/** Finds through which air gets in, or sap out. */
const LETS_AIR_IN: ReadonlySet<string> = new Set(['leak', 'bite', 'limb', 'pulled']);

/** What was not drilled yet gave nothing, and nothing is wrong with that. */
const isDrilledBy = ({ row }: LineTap, on: string): boolean => row.drilledOn === null || row.drilledOn <= on;

/** Between two places along a line: the second, and cuts before it where it lies far off. */
function inPieces(before: number | undefined, at: number): number[] {
  if (before === undefined) return [at];
  const many = Math.max(1, Math.ceil((at - before) / PIECE_M));
  return Array.from({ length: many }, (_, i) => before + ((i + 1) * (at - before)) / many);
}
