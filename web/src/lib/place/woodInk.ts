/** Puts the colour of shavings on a pixel: from pale, where wood is clear, to brown, where it is stained. */
export function woodInk(): (image: ImageData, pixel: number, stained: number) => void {
  const style = getComputedStyle(document.documentElement);
  const [clear, brown] = ['--wood-clear', '--wood-stained'].map((name) => {
    const n = parseInt(style.getPropertyValue(name).trim().slice(1), 16);
    return [(n >> 16) & 255, (n >> 8) & 255, n & 255];
  }) as [number[], number[]];
  return (image, pixel, stained) => {
    for (let k = 0; k < 3; k++) image.data[4 * pixel + k] = clear[k]! + (brown[k]! - clear[k]!) * stained;
    image.data[4 * pixel + 3] = 255;
  };
}
