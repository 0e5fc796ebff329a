import type * as Leaflet from 'leaflet';
import { describe, expect, it, vi } from 'vitest';

import { lassoOn, type LassoHow } from '../../src/lib/map/drawing.ts';

/** A map of a metre a pixel, its origin at the top left, and what was drawn on it. */
function drawnOn() {
  const box = document.createElement('div');
  document.body.append(box);
  box.setPointerCapture = vi.fn();
  const dragging = { disable: vi.fn(), enable: vi.fn() };
  const map = {
    dragging,
    mouseEventToLatLng: ({ clientX, clientY }: MouseEvent) => ({ lng: clientX, lat: -clientY })
  } as unknown as Leaflet.Map;
  const lines: number[] = [];
  const done: [readonly [number, number][], LassoHow][] = [];
  const end = lassoOn(map, box, {
    ondraw: (line) => lines.push(line.length),
    ondone: (line, how) => done.push([line, how])
  });
  const point = (type: string, x: number, y: number, init: PointerEventInit = {}, on: Element = box) =>
    on.dispatchEvent(
      new PointerEvent(type, { clientX: x, clientY: y, pointerId: 1, bubbles: true, button: 0, ...init })
    );
  return { box, dragging, lines, done, end, point };
}

describe('a line round trees', () => {
  it('is drawn in metres, and the map holds still meanwhile', () => {
    const { dragging, lines, done, end, point } = drawnOn();
    expect(dragging.disable).toHaveBeenCalledOnce();
    point('pointermove', 5, 5);
    point('pointerdown', 0, 0);
    for (const [x, y] of [
      [10, 0],
      [10, 10],
      [0, 10]
    ] as const)
      point('pointermove', x, y);
    point('pointerup', 0, 10);
    expect(done).toEqual([
      [
        [
          [0, -0],
          [10, -0],
          [10, -10],
          [0, -10]
        ],
        'only'
      ]
    ]);
    // What is being drawn grows point by point, and is gone once it is done.
    expect(lines).toEqual([1, 2, 3, 4, 0]);
    end();
    expect(dragging.enable).toHaveBeenCalledOnce();
    point('pointerdown', 0, 0);
    expect(lines).toHaveLength(5);
  });

  it.each([
    [{ shiftKey: true }, 'add'],
    [{ altKey: true }, 'remove'],
    [{}, 'only']
  ] as const)('with %o it means: %s', (keys, how) => {
    const { done, point } = drawnOn();
    point('pointerdown', 0, 0);
    for (let i = 1; i < 5; i++) point('pointermove', i, i * i);
    point('pointerup', 0, 0, keys);
    expect(done[0]![1]).toBe(how);
  });

  it('a click, another button, or a press on the map’s own buttons is no line', () => {
    const { box, done, lines, point } = drawnOn();
    point('pointerdown', 0, 0);
    point('pointerup', 0, 0);
    const control = document.createElement('a');
    control.className = 'leaflet-control';
    box.append(control);
    point('pointerdown', 0, 0, {}, control);
    point('pointerdown', 0, 0, { button: 2 });
    point('pointermove', 4, 4);
    expect(done).toEqual([]);
    expect(lines).toEqual([1, 0]);
  });
});
