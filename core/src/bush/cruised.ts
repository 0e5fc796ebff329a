import { plotMetrics } from '../cruise/index.ts';
import type { BushRecord } from '../records/index.ts';
/** A stand's basal area as its plots found it, m2/ha, trees that are in no book included; null without plots. */
export function cruisedM2PerHa(records: readonly BushRecord[], standId: string): number | null {
  const plots = records.flatMap((r) => (r.kind === 'plot' && r.standId === standId ? [plotMetrics(r)] : []));
  if (plots.length === 0) return null;
  return plots.reduce((sum, plot) => sum + plot.basalAreaM2PerHa, 0) / plots.length;
}
