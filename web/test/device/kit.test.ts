import { flushSync, mount, tick, unmount, type Component } from 'svelte';
import { SvelteSet } from 'svelte/reactivity';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';

import { preferences } from '../../src/lib/client/preferences.svelte.ts';
import LengthInput from '../../src/lib/ui/LengthInput.svelte';
import ToggleGroup from '../../src/lib/ui/ToggleGroup.svelte';
import KitTable from './KitTable.svelte';

/* The parts that every page is made of, as a hand on the mouse or the keys meets them. */

const shown: Record<string, unknown>[] = [];
/** @param part any component: the types of one with a choice of its own fit no common one */
function show(part: unknown, props: Record<string, unknown>): void {
  shown.push(mount(part as Component, { target: document.body, props: props as never }));
  flushSync();
}
beforeAll(() => {
  // A page of which some twenty rows of forty pixels can be seen.
  for (const [side, px] of [
    ['offsetHeight', 800],
    ['offsetWidth', 600]
  ] as const)
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, get: () => px });
});
afterEach(async () => {
  for (const part of shown.splice(0)) await unmount(part);
  document.body.replaceChildren();
});
const all = (selector: string) => [...document.querySelectorAll<HTMLElement>(selector)];
const click = (element: Element, init: MouseEventInit = {}) => {
  element.dispatchEvent(new MouseEvent('click', { bubbles: true, ...init }));
  flushSync();
};

describe('one of a few', () => {
  const options = [
    { id: 'girth', label: 'Girth' },
    { id: 'diameter', label: 'Diameter', count: 12 },
    { id: 'hug', label: 'Hug', disabled: true }
  ] as const;

  it('tells which is chosen, how many each has, and chooses another', () => {
    const onchange = vi.fn();
    show(ToggleGroup, { label: 'What was measured', options, value: 'girth', onchange });
    const [girth, diameter, hug] = all('button');
    expect(all('[role=group]')[0]!.getAttribute('aria-label')).toBe('What was measured');
    expect([girth, diameter, hug].map((b) => b!.getAttribute('aria-pressed'))).toEqual(['true', 'false', 'false']);
    expect(diameter!.textContent).toBe('Diameter 12');
    expect((hug as HTMLButtonElement).disabled).toBe(true);
    click(diameter!);
    expect(onchange).toHaveBeenCalledExactlyOnceWith('diameter');
    expect([girth, diameter].map((b) => b!.getAttribute('aria-pressed'))).toEqual(['false', 'true']);
  });
});

describe('a length', () => {
  it('is typed in any unit and kept in mm; what nobody types stays as it was, to the hair', async () => {
    preferences.setUnits('metric');
    let [valueMm, problem] = [304.8, null as string | null];
    const props = {
      use: 'trunk' as const,
      get valueMm() {
        return valueMm;
      },
      set valueMm(mm) {
        valueMm = mm;
      },
      get problem() {
        return problem;
      },
      set problem(words) {
        problem = words;
      }
    };
    show(LengthInput, props);
    const input = all('input')[0] as HTMLInputElement;
    const type = async (text: string) => {
      input.dispatchEvent(new Event('focus'));
      input.value = text;
      input.dispatchEvent(new Event('input', { bubbles: true }));
      input.dispatchEvent(new Event('change', { bubbles: true }));
      input.dispatchEvent(new Event('blur'));
      await tick();
    };
    expect([input.value, valueMm]).toEqual(['30.5 cm', 304.8]);
    await type('14 3/8"');
    expect([valueMm, problem]).toEqual([14.375 * 25.4, null]);
    await type('a lot');
    expect(valueMm).toBe(14.375 * 25.4);
    expect(problem).toMatch(/cannot read/);
    await type('40');
    expect([valueMm, problem]).toEqual([400, null]);
  });
});

describe('a table of trees', () => {
  const rows = Array.from({ length: 5000 }, (_, i) => ({ id: String(i + 1), size: (i * 37) % 101 }));
  const lines = () => all('li [role=group]').map((line) => line.getAttribute('aria-label'));
  const head = (label: string) => all('[aria-label=Order] button').find((b) => b.textContent!.startsWith(label))!;

  it('draws what is seen, in the order in which it came, and says so where there is nothing', async () => {
    show(KitTable, { rows });
    await tick();
    expect(lines().slice(0, 3)).toEqual(['tree 1', 'tree 2', 'tree 3']);
    expect(lines().length).toBeLessThan(60);
    expect(head('Tree').textContent).toBe('Tree ↑');
    await unmount(shown.pop()!);
    show(KitTable, { rows: [] });
    expect(document.body.textContent).toContain('No tree is like that.');
  });

  it('orders by a column, the largest first where that is asked for, and turns round at the second click', async () => {
    show(KitTable, { rows });
    click(head('Size'));
    await tick();
    expect(head('Size').getAttribute('aria-pressed')).toBe('true');
    const size = (name: string) => rows[Number(name.split(' ')[1]) - 1]!.size;
    expect(
      lines()
        .slice(0, 20)
        .map((name) => size(name!))
    ).toEqual(Array<number>(20).fill(100));
    click(head('Size'));
    await tick();
    expect(head('Size').textContent).toBe('Size ↑');
    expect(size(lines()[0]!)).toBe(0);
    // A column without an order has no button.
    expect(all('[aria-label=Order] button').map((b) => b.textContent!.trim().split(' ')[0])).toEqual(['Tree', 'Size']);
  });

  it('is walked with the arrows; every other key is the page’s', async () => {
    const onkey = vi.fn();
    show(KitTable, { rows, onkey });
    await tick();
    const line = (i: number) => document.querySelector<HTMLElement>(`[data-index="${i}"]`)!;
    const press = (key: string) =>
      document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    line(0).focus();
    press('ArrowDown');
    press('ArrowDown');
    expect(document.activeElement).toBe(line(2));
    press('ArrowUp');
    expect(document.activeElement).toBe(line(1));
    press('2');
    expect(onkey).toHaveBeenCalledOnce();
    expect(onkey.mock.calls[0]![1]).toBe(rows[1]);
  });

  it('rows are chosen one by one, and with shift all in between, both ways', async () => {
    const chosen = new SvelteSet<string>();
    show(KitTable, { rows, chosen });
    await tick();
    const boxes = () => all('input[type=checkbox]');
    expect(boxes()[0]!.getAttribute('aria-label')).toBe('Choose tree 1');
    click(boxes()[6]!);
    click(boxes()[3]!, { shiftKey: true });
    expect([...chosen].sort()).toEqual(['4', '5', '6', '7']);
    // Shift on one that is chosen lets go of all in between.
    click(boxes()[5]!, { shiftKey: true });
    expect([...chosen]).toEqual(['7']);
  });
});
