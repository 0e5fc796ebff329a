import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import { chromium } from '@playwright/test';

import { root } from './lib/paths.mjs';
import { run, say } from './lib/say.mjs';
import { ensurePrograms, program } from './lib/setup.mjs';

/**
 * Draws the icons of the installed program from its one drawing: as it is, and, for systems that cut a shape of their own out of it,
 * with its ground to the edges and the drawing within the eight tenths that no shape cuts off.
 */
const ICONS = [
  { name: 'icon-192', size: 192, whole: true },
  { name: 'icon-512', size: 512, whole: true },
  { name: 'icon-maskable-512', size: 512, whole: false },
  { name: 'apple-touch-icon', size: 180, whole: false }
];
const SAFE = 0.8;
const GROUND = '#3a2f27';

await run(async () => {
  await ensurePrograms(['chromium']);
  const drawing = readFileSync(join(root, 'web/static/icon.svg'), 'utf8');
  const browser = await chromium.launch({ executablePath: program('chromium'), args: ['--no-sandbox'] });
  try {
    for (const { name, size, whole } of ICONS) {
      const page = await browser.newPage({ viewport: { width: size, height: size } });
      const inner = whole ? size : SAFE * size;
      await page.setContent(
        `<body style="margin:0;display:grid;place-items:center;height:100vh;background:${whole ? 'transparent' : GROUND}">` +
          `<div style="width:${inner}px;height:${inner}px">${drawing}</div></body>`
      );
      await page.screenshot({ path: join(root, `web/static/${name}.png`), omitBackground: whole });
      await page.close();
      say(`web/static/${name}.png`);
    }
  } finally {
    await browser.close();
  }
});
