import type { RingPriors, SizeExpectation } from '@baumkin/core/measure';
import type { BushRecord, BushSettings, BaseMapFit, Role, SiteFeature, Stand, TreeRow } from '@baumkin/core/records';

/** What the server tells of a bush at a glance. */
export interface Overview {
  readonly bush: {
    readonly id: string;
    readonly name: string;
    readonly role: Role;
    readonly settings: BushSettings;
    readonly version: number;
    /** where on earth the bush lies; a device may hold an overview without it */
    readonly origin?: { readonly lat: number; readonly lon: number } | null;
  };
  /** everyone who belongs to the bush: records name their author by id; a device may hold an overview without them */
  readonly people?: readonly { readonly id: string; readonly name: string; readonly showsHoles?: boolean }[];
  readonly member: { readonly id: string; readonly name: string };
  readonly today: string;
  readonly season: number;
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  /** stands and features that were stored and cannot be read; a device may hold an overview without them */
  readonly damaged?: readonly {
    readonly what: 'stand' | 'feature';
    readonly id: string;
    readonly name: string;
    readonly reason: string;
  }[];
  /** how a picture lies under the map; null where none does */
  readonly baseMap?: BaseMapFit | null;
  /** records of the bush as a whole; a device may hold an overview without them */
  readonly bushRecords?: readonly BushRecord[];
  /** ring widths to expect in this bush; a device may hold an overview without them */
  readonly ringPriors?: RingPriors;
  /** sizes to expect in this bush; a device may hold an overview without them */
  readonly sizes?: SizeExpectation | null;
  /** the feed of its changes, and the last one that is in this; a device may hold an overview without them */
  readonly feed?: string;
  readonly number?: number;
  readonly trees: readonly TreeRow[];
}
