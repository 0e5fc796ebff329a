import fc from 'fast-check';
import { SPECIES } from '../src/identify/index.ts';

export const options = { today: '2026-11-23', defaultUnit: 'cm' as const };

export const origin = { lat: 46.5, lon: -40 };

export const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

export const tag = fc
  .stringMatching(/^[A-Za-z0-9<>&"'=+@-][A-Za-z0-9 <>&"'-]{0,8}$/)
  .map((t) => t.trim())
  .filter((t) => t !== '');

export const species = fc.constantFrom(...SPECIES.map((s) => s.id));
