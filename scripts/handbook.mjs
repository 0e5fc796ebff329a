import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { marked } from 'marked';

import { root, stateDir } from './lib/paths.mjs';
import { run, say } from './lib/say.mjs';
import { ensureNodeModules, ensurePrograms, program } from './lib/setup.mjs';

/** Prints the handbook as one PDF: `npm run handbook [-- file]`. */
const folder = join(root, 'docs/handbook');
/** @param {string} family @param {string} file of its package */
const face = (family, file) => {
  const bytes = readFileSync(join(root, 'node_modules/@fontsource-variable', file));
  return `@font-face { font-family: "${family}"; font-weight: 100 900; src: url(data:font/woff2;base64,${bytes.toString('base64')}) }`;
};
const style = () => `
  ${face('Atkinson', 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2')}
  ${face('Bitter', 'bitter/files/bitter-latin-wght-normal.woff2')}
  @page { size: A4; margin: 22mm 20mm 24mm }
  body { font: 11.5pt/1.5 Atkinson, system-ui, sans-serif; color: #2b211c }
  h1, h2 { font-family: Bitter, Georgia, serif; line-height: 1.2; break-after: avoid }
  h1 { font-size: 22pt; margin: 0 0 5mm } h2 { font-size: 15pt; margin: 7mm 0 2mm }
  section { break-before: page } section:first-of-type { break-before: auto }
  img { display: block; max-width: 100%; max-height: 82mm; margin: 4mm auto; border: 1px solid #cfc6bb }
  li { margin: 1mm 0 } a { color: inherit }`;
const FOOT = `<div style="width:100%;font:8pt sans-serif;text-align:center"><span class="pageNumber"></span></div>`;

await run(async () => {
  await ensurePrograms(['chromium']);
  await ensureNodeModules();
  const target = resolve(process.argv[2] ?? join(stateDir, 'handbook.pdf'));
  const chapters = readdirSync(folder)
    .filter((name) => /^\d.*\.md$/.test(name))
    .sort()
    .map((name) => `<section>${pictured(String(marked.parse(readFileSync(join(folder, name), 'utf8'))))}</section>`);
  const browser = await chromium.launch({
    executablePath: program('chromium'),
    args: ['--no-sandbox', '--disable-gpu']
  });
  try {
    const page = await browser.newPage();
    await page.setContent(
      `<!doctype html><html lang="en"><meta charset="utf-8"><title>Baumkin: handbook</title><style>${style()}</style><body>${chapters.join('')}</body></html>`
    );
    await page.pdf({
      path: target,
      preferCSSPageSize: true,
      displayHeaderFooter: true,
      headerTemplate: '<i></i>',
      footerTemplate: FOOT,
      outline: true,
      tagged: true
    });
  } finally {
    await browser.close();
  }
  say(`The handbook: ${target}`);
});

/** Puts pictures into the page itself: it has no address of its own. @param {string} html */
function pictured(html) {
  return html.replace(/src="([^"]+\.png)"/g, (_, path) => {
    const bytes = readFileSync(join(folder, path));
    return `src="data:image/png;base64,${bytes.toString('base64')}"`;
  });
}
