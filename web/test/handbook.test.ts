import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { STATIONS } from '@baumkin/core/records';
import { describe, expect, it } from 'vitest';

import { PAGES } from '../src/lib/frame/pages.ts';

const folder = new URL('../../docs/handbook/', import.meta.url);
const chapters = readdirSync(folder).filter((name) => name.endsWith('.md'));
const textOf = (name: string) => readFileSync(new URL(name, folder), 'utf8');

describe('the handbook', () => {
  it('names pages as they are called on the screen', () => {
    const named = STATIONS.flatMap((station) => {
      const title = station[0]!.toUpperCase() + station.slice(1);
      return PAGES[station].pages.map(({ name }) => `${title}, ${name}`);
    });
    let found = 0;
    for (const name of chapters)
      for (const [, said] of textOf(name).matchAll(/\*\*((?:Identify|Measure|Count|Place|Thin|Season), [^*]+)\*\*/g)) {
        expect(named, name).toContain(said);
        found += 1;
      }
    expect(found).toBeGreaterThan(25);
  });

  it('leads to chapters and pictures that are there', () => {
    const index = textOf('README.md');
    for (const name of chapters) {
      if (name !== 'README.md') expect(index, name).toContain(`](${name})`);
      for (const [, target] of textOf(name).matchAll(/\]\(([^)]+)\)/g))
        expect(existsSync(new URL(target!, folder)), `${name}: ${target}`).toBe(true);
    }
  });

  it('speaks of safety where work can hurt, and never says that a tree is safe', () => {
    for (const chapter of ['01', '05', '06', '07'])
      expect(textOf(chapters.find((name) => name.startsWith(chapter))!)).toContain('**Take care.**');
    expect(textOf('07-thinning.md')).toContain('never says that a tree is safe');
  });
});
