import { STATIONS } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { PAGES } from '../src/lib/frame/pages.ts';
import { GLOSSARY } from '../src/lib/words/glossary.ts';
import { HOW_TO, howTo } from '../src/lib/words/howTo.ts';

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

  it('speaks in sentences, and explains each word once', () => {
    for (const steps of Object.values(HOW_TO)) for (const step of steps) expect(step).toMatch(/^[A-Z].*[.]$/);
    const words = Object.values(GLOSSARY).map(([word]) => word);
    expect(new Set(words).size).toBe(words.length);
  });
});
