import { counted } from './counted.ts';
import { speciesById } from '@baumkin/core/identify';
import { compassPoint } from '@baumkin/core/math';
import { toDiameter } from '@baumkin/core/measure';
import { recordKindOf, type Paint, type WorkRecord } from '@baumkin/core/records';
import { SIDES } from '@baumkin/core/stand';
import type { LengthUse } from '@baumkin/core/units';

import { METHOD_LABEL, ringCountWords } from './measure.ts';
import { BAN_LABELS } from './permission.ts';
import { DEFECT_WORDS, HAZARD_WORDS, WILDLIFE_WORDS } from './taps.ts';
import { featureWords, sawnWords, TAPPED_BEFORE } from './placement.ts';
import { newsWords } from './rotation.ts';
import { closingWords } from './season.ts';
import { MARK_SAID } from './thinning.ts';
import { capital } from '../words/capital.ts';

/** Writes lengths in the steward's units. */
interface Ruler {
  length(mm: number, use: LengthUse): string;
  /** the paint of a season; null where there is none */
  paintOf(season: number): Paint | null;
}

/** A record in one line, for the life of a tree; by its label alone where its kind has no sentence of its own. */
export function describe(record: WorkRecord, ruler: Ruler): string {
  switch (record.kind) {
    case 'entry':
      return `${record.tagged ? `Into the book under tag ${record.tag}` : `Noted in passing as ${record.tag}`}${record.stemOf ? ', a stem of a shared base' : ''}${record.note ? `: ${record.note}` : ''}`;
    case 'place':
      return `Placed on the map, ${record.quality}${record.accuracyM ? ` to about ${ruler.length(record.accuracyM * 1000, 'ground')}` : ''}${record.asTaken ? `: ${record.asTaken}` : ''}`;
    case 'determination': {
      const name = record.species ? speciesById(record.species).name : '';
      return {
        settled: `Settled as ${name}`,
        mapleOpen: `A maple, species open; most likely ${name || 'not said'}`,
        lookAgain: `Looked at, left open; most likely ${name}`,
        notMaple: `Not a maple${name ? `: ${name}` : ''}`
      }[record.verdict];
    }
    case 'reading':
      return `Measured ${record.quantity} ${record.asWritten} with ${METHOD_LABEL[record.method]}: ${ruler.length(toDiameter(record.valueMm, record.quantity), 'trunk')} thick`;
    case 'ringCount':
      return ringCountWords(record, ruler);
    case 'heightAndCrown': {
      const metres = (m: number) => ruler.length(m * 1000, 'ground');
      const parts = [
        ...(record.heightM === null ? [] : [`${metres(record.heightM)} tall`]),
        ...(record.crownRadiiM === null
          ? []
          : [`crown reaches ${record.crownRadiiM.map((r, i) => `${metres(r)} ${'NESW'[i]}`).join(', ')}`])
      ];
      return `Measured: ${parts.join('; ')}`;
    }
    case 'assessment':
      return `${record.diebackPct === null ? 'Looked at, not up at its crown' : `Looked up: ${record.diebackPct} % dieback`}${record.crownClass ? `, ${record.crownClass}` : ''}${record.oldestOpenHoleYears === null ? '' : record.oldestOpenHoleYears === 0 ? ', old holes closed' : `, a hole open after ${counted(record.oldestOpenHoleYears, 'year')}`}${record.stressed ? ', stressed the summer before' : ''}${record.peeledPct ? `, bark peeled round ${record.peeledPct} % of its girth${record.peelFresh ? ', freshly' : ''}` : ''}${[...record.defects.map((d) => DEFECT_WORDS[d.kind]), ...record.hazards.map((h) => HAZARD_WORDS[h]), ...record.wildlife.map((w) => WILDLIFE_WORDS[w])].map((word) => `, ${word}`).join('')}`;
    case 'decision':
      return `Decided for ${record.season}: ${record.taps === 0 ? 'rest' : record.taps === 1 ? 'one tap' : `${record.taps} taps`}${record.reason ? ` (${record.reason})` : ''}`;
    case 'taphole':
      return `Drilled for ${record.season}${ruler.paintOf(record.season) ? ` (${ruler.paintOf(record.season)})` : ''}: ${compassPoint(record.bearingDeg)} side, bearing ${Math.round(record.bearingDeg)}°, ${ruler.length(record.heightMm, 'hand')} up, ${ruler.length(record.bitMm, 'bit')} by ${ruler.length(record.depthMm, 'drill')}`;
    case 'rotation':
      return `${{ first: 'Planned', carried: 'As planned before', holds: 'Plan looked at again, it stands', changed: 'Planned anew' }[record.verdict]}, for ${record.season}: ${record.holes.length === 0 ? 'no hole' : record.holes.map((hole) => `${compassPoint(hole.bearingDeg)} side, ${ruler.length(hole.heightMm, 'hand')} up`).join('; ')}${record.news.length > 0 ? ` (${newsWords(record.news)})` : ''}`;
    case 'shavings':
      return {
        pale: 'Shavings pale: clear wood',
        partly: `Shavings partly brown${record.brownShare !== null ? `, about ${Math.round(record.brownShare * 100)} %` : ''}${record.brownFromMm !== null ? `, from ${ruler.length(record.brownFromMm, 'drill')} in` : ''}`,
        brown: 'Shavings all brown: old wood',
        dry: `Stayed dry${record.othersRan ? `; the others ${{ well: 'ran well', little: 'ran a little', none: 'did not run either' }[record.othersRan]}` : ''}`
      }[record.seen];
    case 'trunkFeature':
      return `On the trunk: ${featureWords(record)}, ${compassPoint(record.bearingDeg)} side, ${ruler.length(record.heightMm, 'hand')} up`;
    case 'closing':
      return closingWords(record);
    case 'sawnColumn':
      return `On the sawn face: ${sawnWords(record, ruler)}`;
    case 'scars':
      return `Old holes of unknown year: about ${record.many}${record.bearingDeg === null ? '' : ` on the ${compassPoint(record.bearingDeg)} side`}, ${record.fromSeason} to ${record.toSeason}`;
    case 'tappedBefore':
      return TAPPED_BEFORE[record.answer];
    case 'mark':
      return (
        MARK_SAID[record.purpose] +
        (record.reviewOn ? `, to be looked at again by ${record.reviewOn}` : '') +
        (record.leanDeg === null ? '' : `, leaning ${compassPoint(record.leanDeg)}`) +
        (record.reason ? `: ${record.reason}` : '')
      );
    case 'cropChoice':
      return (
        { crop: 'Chosen as a crop tree', veto: 'Not to be a crop tree', none: 'No longer chosen as a crop tree' }[
          record.choice
        ] + (record.reason ? `: ${record.reason}` : '')
      );
    case 'crownCard': {
      const sides = SIDES.filter((side) => record[side] === 'free');
      return `Looked up from below: ${sides.length === 0 ? 'no side' : sides.join(', ')} free, ${record.blockers.length} in the way`;
    }
    case 'cut':
      return (
        {
          felled: 'Felled',
          girdled: 'Girdled, left to die standing',
          fallen: 'Fell by itself',
          lying: 'Lies, and is alive'
        }[record.what] +
        (record.by ? ` by ${record.by}` : '') +
        (record.damaged.length > 0
          ? `; hurt ${record.damaged.length === 1 ? 'a kept tree' : `${record.damaged.length} kept trees`}`
          : '') +
        (record.reviewOn ? `; look again by ${record.reviewOn}` : '') +
        (record.note ? `: ${record.note}` : '')
      );
    case 'pulling':
      return `${counted(record.spouts, 'spout')} of ${record.season} pulled${record.note ? `: ${record.note}` : ''}`;
    case 'painted':
      return `Its mark stands on the trunk${record.note ? `: ${record.note}` : ''}`;
    case 'remark':
      return `Noted: ${record.text}`;
    case 'tapBan':
      return `Never to be tapped: ${record.reasons.map((reason) => BAN_LABELS[reason]).join(', ')}${record.until ? `, until ${record.until}` : ''}${record.note ? `: ${record.note}` : ''}`;
    default:
      return capital(recordKindOf((record as WorkRecord).kind).label);
  }
}
