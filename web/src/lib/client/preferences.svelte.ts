import { BODY_PARTS, isBody, type OwnBody } from '@baumkin/core/trunk';
import {
  formatBasalArea,
  formatBasalAreaDensity,
  formatDegrees,
  formatGround,
  formatLength,
  formatHeap,
  formatPatch,
  formatPerGround,
  formatSmallVolume,
  formatStacked,
  formatVolume,
  fromScale,
  LITRES_PER_GALLON,
  toScale,
  type LengthUnit,
  type LengthUse,
  type UnitSystem
} from '@baumkin/core/units';

import { unitsWhere } from './unitsWhere.ts';

const KEY = 'baumkin-preferences';
type Theme = 'snow' | 'night';

/** What this device's steward prefers: units, theme, voice. One switch changes every figure at once. */
class Preferences {
  units = $state<UnitSystem>('metric');
  theme = $state<Theme>('snow');
  /** how high parts of her own body are who works here, mm; null where nobody measured herself */
  body = $state.raw<OwnBody | null>(null);
  /** is what a walk says read out? */
  aloud = $state(false);

  /** Reads what was kept; the system's own theme where nothing was. */
  restore(): void {
    const kept = readKept();
    this.units = kept.units ?? unitsWhere(Intl.DateTimeFormat().resolvedOptions().timeZone);
    this.aloud = kept.aloud ?? false;
    this.body = kept.body ?? null;
    this.theme = kept.theme ?? (window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'snow');
    document.documentElement.dataset.theme = this.theme;
  }

  setUnits(units: UnitSystem): void {
    this.units = units;
    this.#keep();
  }

  setTheme(theme: Theme): void {
    this.theme = theme;
    document.documentElement.dataset.theme = theme;
    this.#keep();
  }

  setAloud(aloud: boolean): void {
    this.aloud = aloud;
    this.#keep();
  }

  setBody(body: OwnBody | null): void {
    this.body = body;
    this.#keep();
  }

  #keep(): void {
    const { units, theme, aloud, body } = this;
    localStorage.setItem(KEY, JSON.stringify({ units, theme, aloud, body }));
  }

  length(mm: number, use: LengthUse): string {
    return formatLength(mm, this.units, use);
  }

  basalArea(m2: number): string {
    return formatBasalArea(m2, this.units);
  }

  basalAreaDensity(m2PerHa: number): string {
    return formatBasalAreaDensity(m2PerHa, this.units);
  }

  /** @param c °C */
  degrees(c: number, digits = 0): string {
    return formatDegrees(c, this.units, digits);
  }

  /** what one tap gives, or one vessel holds */
  /** litres as they are typed */
  get volumeScale() {
    const litres = this.units === 'metric' ? 1 : LITRES_PER_GALLON;
    return {
      shown: (kept: number) => kept / litres,
      kept: (shown: number) => shown * litres,
      name: this.units === 'metric' ? 'l' : 'gal'
    };
  }

  /** °C as they are typed */
  get degreesScale() {
    const { units } = this;
    return {
      shown: (c: number) => toScale(c, units),
      kept: (typed: number) => fromScale(typed, units),
      name: units === 'metric' ? '°C' : '°F'
    };
  }

  readonly fewLitres = (litres: number): string => formatSmallVolume(litres, this.units);

  volume(litres: number): string {
    return formatVolume(litres, this.units);
  }

  perGround(perHa: number): string {
    return formatPerGround(perHa, this.units);
  }

  patch(m2: number): string {
    return formatPatch(m2, this.units);
  }

  heap(m3: number): string {
    return formatHeap(m3, this.units);
  }

  stacked(m3: number): string {
    return formatStacked(m3, this.units);
  }

  ground(ha: number): string {
    return formatGround(ha, this.units);
  }

  /** unit of a bare number typed for a trunk */
  get trunkUnit(): LengthUnit {
    return this.units === 'metric' ? 'cm' : 'in';
  }
}

function readKept(): { units?: UnitSystem; theme?: Theme; aloud?: boolean; body?: OwnBody } {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, unknown>;
    return {
      units: kept.units === 'inch' || kept.units === 'metric' ? kept.units : undefined,
      theme: kept.theme === 'snow' || kept.theme === 'night' ? kept.theme : undefined,
      aloud: kept.aloud === true,
      body: isOwnBody(kept.body) ? kept.body : undefined
    };
  } catch {
    return {};
  }
}

function isOwnBody(kept: unknown): kept is OwnBody {
  const body = kept as OwnBody | null;
  return typeof body === 'object' && body !== null && BODY_PARTS.every((part) => body[part] > 0) && isBody(body);
}

export const preferences = new Preferences();
