import { readFileSync } from 'node:fs';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

import { apiListing, areasOffered } from './apiListing.ts';
import { constantsOf, constantsPage } from './constants.ts';

const faces = import.meta.glob<Record<string, unknown>>('../src/*/index.ts');
const readme = readFileSync(new URL('../README.md', import.meta.url), 'utf8');
const examples = [...readme.matchAll(/^## (\w+)\n[^#]*?```ts\n([\s\S]*?)```/gm)].map(([, area, code]) => ({
  area,
  code
}));

/** Imports what an example imports: an area of the core by its face, all else as it is. */
function faceOf(name: string): Promise<Record<string, unknown>> {
  const [, area] = /^@baumkin\/core\/(\w+)$/.exec(name) ?? [];
  if (area === undefined) return import(/* @vite-ignore */ name);
  const face = faces[`../src/${area}/index.ts`];
  if (!face) throw new Error(`There is no area ${area}.`);
  return face();
}

/** Runs an example; every line that ends in `// → value` is held against the value, a number to the digits written. */
async function run(code: string): Promise<void> {
  const held = code
    .replace(/^import (\{.*\}|\w+) from '(.*)';$/gm, (_, names: string, from: string) =>
      names.startsWith('{')
        ? `const ${names} = await imported('${from}');`
        : `const ${names} = (await imported('${from}')).default;`
    )
    .replace(/^(.*); \/\/ → (.*)$/gm, 'check($1, $2, `$2`);');
  const check = (value: unknown, wanted: unknown, written: string) => {
    if (typeof wanted !== 'number') return expect(value).toEqual(wanted);
    expect(value).toBeCloseTo(wanted, written.split('.')[1]?.length ?? 0);
  };
  const { outputText } = ts.transpileModule(`export async function example() {${held}}`, {
    compilerOptions: { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.CommonJS }
  });
  const exported: { example?: () => Promise<void> } = {};
  new Function('exports', 'imported', 'check', outputText)(exported, faceOf, check);
  await exported.example!();
}

describe('the constants', () => {
  const constants = constantsOf();

  it('are those that the docs list, with their values', async () => {
    await expect(constantsPage(constants)).toMatchFileSnapshot('../../docs/constants.md');
  });

  it('each say what they are', () => {
    expect(constants.filter(({ says }) => says.length < 12)).toEqual([]);
  });
});

describe('the core as a library', () => {
  const areas = areasOffered();

  it('offers what its listing says', async () => {
    await expect(apiListing(areas)).toMatchFileSnapshot('../API.md');
  });

  it.each(examples)('does what its guide shows of $area', async ({ code }) => {
    expect(code).toMatch(/→/);
    await run(code!);
  });

  it('has an example of every area', () => {
    expect(examples.map(({ area }) => area).sort()).toEqual([...areas.keys()].sort());
  });

  it('says of all that it offers what it is', () => {
    const silent = [...areas].flatMap(([area, offered]) =>
      offered.filter(({ says, kind }) => says === '' && kind !== 'type').map(({ name }) => `${area}: ${name}`)
    );
    expect(silent).toEqual([]);
  });
});
