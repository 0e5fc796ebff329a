import { placer } from '@baumkin/core/geometry';
import { toRadians } from '@baumkin/core/math';
import type { BaseMapFit } from '@baumkin/core/records';

/** The longer side of a turned picture, pixels: more than this not every canvas takes. */
const MAX_PIXELS = 4096;

/** A picture of the ground turned so that north is up, with the box that it fills; null where it cannot be read. */
export async function northUp({ url, fit }: { readonly url: string; readonly fit: BaseMapFit }): Promise<{
  url: string;
  west: number;
  south: number;
  east: number;
  north: number;
} | null> {
  const response = await fetch(url).catch(() => null);
  if (!response?.ok) return null;
  const bitmap = await createImageBitmap(await response.blob()).catch(() => null);
  if (!bitmap) return null;
  const { toMetres, metresPerPixel, turnDeg } = placer(fit.pins);
  const corners = [
    [0, 0],
    [bitmap.width, 0],
    [0, bitmap.height],
    [bitmap.width, bitmap.height]
  ].map(([x, y]) => toMetres(x!, y!));
  const [easts, norths] = [corners.map(([e]) => e), corners.map(([, n]) => n)];
  const [west, east] = [Math.min(...easts), Math.max(...easts)];
  const [south, north] = [Math.min(...norths), Math.max(...norths)];
  // As fine as the picture itself, within what a canvas takes.
  const scale = Math.min(1 / metresPerPixel, MAX_PIXELS / Math.max(east - west, north - south));
  const canvas = document.createElement('canvas');
  canvas.width = Math.ceil((east - west) * scale);
  canvas.height = Math.ceil((north - south) * scale);
  const context = canvas.getContext('2d')!;
  const [left, top] = toMetres(0, 0);
  context.translate((left - west) * scale, (north - top) * scale);
  context.rotate(toRadians(turnDeg));
  context.scale(scale * metresPerPixel, scale * metresPerPixel);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve));
  return blob && { url: URL.createObjectURL(blob), west, south, east, north };
}
