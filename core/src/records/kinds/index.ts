import { answer } from './answer.ts';
import { assessment } from './assessment.ts';
import { batch } from './batch.ts';
import { closing } from './closing.ts';
import { collectingPlace } from './collectingPlace.ts';
import { collection } from './collection.ts';
import { cropChoice } from './cropChoice.ts';
import { crownCard } from './crownCard.ts';
import { cut } from './cut.ts';
import { decision } from './decision.ts';
import { determination } from './determination.ts';
import { drillingChoice } from './drillingChoice.ts';
import { entry } from './entry.ts';
import { hanging } from './hanging.ts';
import { heightAndCrown } from './heightAndCrown.ts';
import { levelling } from './levelling.ts';
import { lineLook } from './lineLook.ts';
import { lineReading } from './lineReading.ts';
import { mark } from './mark.ts';
import { painted } from './painted.ts';
import { pipeLine } from './pipeLine.ts';
import { place } from './place.ts';
import { planting } from './planting.ts';
import { plot } from './plot.ts';
import { pulling } from './pulling.ts';
import { question } from './question.ts';
import { reading } from './reading.ts';
import { remark } from './remark.ts';
import { ringCount } from './ringCount.ts';
import { rotation } from './rotation.ts';
import { roundShare } from './roundShare.ts';
import { sawnColumn } from './sawnColumn.ts';
import { scars } from './scars.ts';
import { seasonEnd } from './seasonEnd.ts';
import { seasonSign } from './seasonSign.ts';
import { seedlings } from './seedlings.ts';
import { shavings } from './shavings.ts';
import { tappedBefore } from './tappedBefore.ts';
import { tapBan } from './tapBan.ts';
import { taphole } from './taphole.ts';
import { thinningPlan } from './thinningPlan.ts';
import { trunkFeature } from './trunkFeature.ts';
import { weather } from './weather.ts';
import { workHours } from './workHours.ts';

/**
 * Every kind of record there is. What the program knows of a kind stands in its own file; a new one is named here, and the
 * union of records, their tables, files, roles, list lines and interface follow.
 */
export const KINDS = [
  entry,
  place,
  determination,
  reading,
  ringCount,
  heightAndCrown,
  assessment,
  decision,
  rotation,
  taphole,
  shavings,
  trunkFeature,
  scars,
  tappedBefore,
  sawnColumn,
  pulling,
  mark,
  painted,
  cropChoice,
  crownCard,
  cut,
  tapBan,
  remark,
  plot,
  seedlings,
  planting,
  thinningPlan,
  question,
  answer,
  roundShare,
  weather,
  drillingChoice,
  collectingPlace,
  collection,
  batch,
  seasonSign,
  seasonEnd,
  closing,
  hanging,
  workHours,
  pipeLine,
  levelling,
  lineReading,
  lineLook
] as const;

export * from './answer.ts';
export * from './assessment.ts';
export * from './batch.ts';
export * from './closing.ts';
export * from './collectingPlace.ts';
export * from './collection.ts';
export * from './cropChoice.ts';
export * from './crownCard.ts';
export * from './cut.ts';
export * from './decision.ts';
export * from './determination.ts';
export * from './drillingChoice.ts';
export * from './entry.ts';
export * from './hanging.ts';
export * from './heightAndCrown.ts';
export * from './levelling.ts';
export * from './lineLook.ts';
export * from './lineReading.ts';
export * from './mark.ts';
export * from './painted.ts';
export * from './pipeLine.ts';
export * from './place.ts';
export * from './planting.ts';
export * from './plot.ts';
export * from './pulling.ts';
export * from './question.ts';
export * from './reading.ts';
export * from './remark.ts';
export * from './ringCount.ts';
export * from './rotation.ts';
export * from './roundShare.ts';
export * from './sawnColumn.ts';
export * from './scars.ts';
export * from './seasonEnd.ts';
export * from './seasonSign.ts';
export * from './seedlings.ts';
export * from './shavings.ts';
export * from './tapBan.ts';
export * from './taphole.ts';
export * from './tappedBefore.ts';
export * from './thinningPlan.ts';
export * from './trunkFeature.ts';
export * from './weather.ts';
export * from './workHours.ts';
