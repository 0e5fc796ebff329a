/** A word's box on the screen, pixels. */
export type Box = Pick<DOMRectReadOnly, 'left' | 'right' | 'top' | 'bottom'>;

/** Which of these words can be read together: each but those that would lie on an earlier one. */
export function readable(boxes: readonly Box[]): boolean[] {
  const kept: Box[] = [];
  return boxes.map((box) => {
    const free = kept.every(
      (other) =>
        box.right <= other.left || box.left >= other.right || box.bottom <= other.top || box.top >= other.bottom
    );
    if (free) kept.push(box);
    return free;
  });
}

/** What is said first where there is no room for all: what is being done, then stands, then what else lies there. */
const ORDER = ['.ring-word', '.stand-name', '.feature-name'];

/** Hides the words on a map that would lie on others at this scale. */
export function keepWordsApart(map: HTMLElement): void {
  const words = ORDER.flatMap((kind) => [...map.querySelectorAll<HTMLElement>(`${kind} span`)]);
  const shown = readable(words.map((word) => word.getBoundingClientRect()));
  words.forEach((word, i) => (word.style.visibility = shown[i] ? '' : 'hidden'));
}
