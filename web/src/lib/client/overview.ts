import type { BushSettings, Role, SiteFeature, Stand, TreeRow } from '@baumkin/core';

/** What the server tells of a bush at a glance. */
export interface Overview {
  readonly bush: { readonly id: string; readonly name: string; readonly role: Role; readonly settings: BushSettings };
  readonly member: { readonly id: string; readonly name: string };
  readonly today: string;
  readonly season: number;
  readonly stands: readonly Stand[];
  readonly features: readonly SiteFeature[];
  readonly trees: readonly TreeRow[];
}
