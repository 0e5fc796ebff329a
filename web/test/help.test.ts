import { STATIONS } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { PAGES } from '../src/lib/frame/pages.ts';
import { DRAWN } from '../src/lib/help/drawn.ts';
import { HOW_TO, howTo } from '../src/lib/help/howTo.ts';
import { GLOSSARY } from '../src/lib/words/glossary.ts';

describe('help', () => {
  it('says of every page how it is done there, and of no page that is not', () => {
    const ofStations = STATIONS.flatMap((station) => [
      station,
      ...PAGES[station].pages.map(({ slug }) => `${station}/${slug}`)
    ]);
    // The other pages, by the folders of their routes.
    const routes = Object.keys(import.meta.glob('../src/routes/bush/[[]bush[]]/**/+page.svelte')).map((file) =>
      file.replace(/^.*\[bush\]\/|\+page\.svelte$/g, '').replace(/\/?(\[.*)?$/, '')
    );
    expect(Object.keys(HOW_TO).sort()).toEqual([...new Set([...ofStations, ...routes, 'life'])].sort());
  });

  it('finds the page of an address, with a tree in it or without', () => {
    expect(howTo('place/round')).toBe(HOW_TO['place/round']);
    expect(howTo('place/3f0e4b8a-9d47-4a0f-8e6b-9c317c1d6a52')).toBe(HOW_TO.place);
    expect(howTo('walk/hanging')).toBe(HOW_TO.walk);
    expect(howTo('')).toBe(HOW_TO['']);
    expect(howTo('constructor/toString')).toBe(HOW_TO['']);
  });

  it('draws what it says: no number without its step, nothing beside the sheet, no drawing that no page shows', () => {
    for (const [page, { drawn, steps }] of Object.entries(HOW_TO)) {
      const numbers = DRAWN[drawn].flatMap((piece) => ('step' in piece ? [piece.step] : []));
      for (const number of numbers) expect(number, page).toBeLessThanOrEqual(steps.length);
      expect(new Set(numbers).size, page).toBe(numbers.length);
    }
    for (const [id, pieces] of Object.entries(DRAWN))
      for (const piece of pieces) {
        if (!('at' in piece)) continue;
        expect(piece.at[0], id).toBeGreaterThan(0);
        expect(piece.at[0], id).toBeLessThan(360);
        expect(piece.at[1], id).toBeLessThan(150);
      }
    expect(new Set(Object.values(HOW_TO).map(({ drawn }) => drawn))).toEqual(new Set(Object.keys(DRAWN)));
  });

  it('speaks in sentences, and explains each word once', () => {
    for (const { steps } of Object.values(HOW_TO)) for (const step of steps) expect(step).toMatch(/^[A-Z].*[.]$/);
    const words = Object.values(GLOSSARY).map(([word]) => word);
    expect(new Set(words).size).toBe(words.length);
  });
});
