import { expect, test, type Page } from '@playwright/test';

import { shortOrLong } from '../testing/long.ts';
import {
  allSaved,
  bringIn,
  bushIdOf,
  expectAccessible,
  expectFits,
  mapOf,
  recordsOf,
  signIn,
  signUpWithBush,
  treesOf
} from './support.ts';

async function lineRound(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  await page.mouse.move(...(points[0]! as [number, number]));
  await page.mouse.down();
  for (const [x, y] of points.slice(1)) await page.mouse.move(x, y, { steps: 4 });
  await page.mouse.up();
}

test('trees are chosen on the map, by an answer, a stand and a rule, and become a list, a file and a round', async ({
  page
}) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const trees = await treesOf(page, bushId);
  await page.keyboard.press('m');
  await expect(page.getByRole('heading', { name: 'The map' })).toBeVisible();
  const at = await mapOf(page);
  await expectAccessible(page);
  await expectFits(page);

  const chosen = page.getByTestId('chosen');
  await page.getByRole('button', { name: 'Line round them' }).click();
  await lineRound(page, [at(0.01, 0.01), at(0.99, 0.01), at(0.99, 0.99), at(0.01, 0.99)]);
  await expect(chosen).toContainText(`${trees.length} trees chosen`);
  await lineRound(page, [at(0.01, 0.01), at(0.4, 0.01), at(0.4, 0.99), at(0.01, 0.99)]);
  const part = Number(/(\d+) trees/.exec((await chosen.textContent())!)![1]);
  expect(part).toBeGreaterThan(10);
  expect(part).toBeLessThan(trees.length);

  // The list holds what the line went round, and nothing else: the westernmost trees.
  const listed = await chosen.locator('tbody button').allTextContents();
  const wests = trees.filter((t) => t.eastM !== null).sort((a, b) => a.eastM! - b.eastM!);
  expect(wests.slice(0, part).map((t) => t.tag)).toEqual(expect.arrayContaining(listed.slice(0, 20)));

  await page.getByLabel('What is asked of the trees').selectOption({ label: 'What is due?' });
  const answer = page.getByRole('button', { name: /^a question is open/ });
  const asked = Number(/\d+/.exec((await answer.textContent())!)![0]);
  expect(asked).toBeGreaterThan(2);
  expect(asked).toBeLessThanOrEqual(trees.filter((t) => t.questions > 0).length);
  await answer.click();
  await expect(chosen).toContainText(`${asked} trees chosen`);

  await page.getByRole('button', { name: 'Choose by a rule' }).click();
  const rule = page.getByRole('group', { name: 'Rule 1' });
  await rule.getByLabel('Value, cm').fill('60');
  const thick = trees.filter((t) => t.dbhMm !== null && t.dbhMm >= 600);
  await expect(chosen).toContainText(`${thick.length} ${thick.length === 1 ? 'tree' : 'trees'} chosen`);
  const download = page.waitForEvent('download');
  await chosen.getByRole('button', { name: 'GPX' }).click();
  const file = await (await download).createReadStream();
  let gpx = '';
  for await (const chunk of file) gpx += String(chunk);
  expect(gpx.match(/<wpt /g)).toHaveLength(thick.length);

  await chosen.getByRole('button', { name: 'Walk these' }).click();
  await page.goto(`/bush/${bushId}/measure/${thick[0]!.id}`);
  await expect(page.getByTestId('round')).toContainText(`A round of ${thick.length} trees`);
  await page.keyboard.press(']');
  await expect(page).toHaveURL(new RegExp(thick[1]!.id));
  await page.getByRole('button', { name: 'Back to the whole walk' }).click();
  await expect(page.getByTestId('round')).toBeHidden();
});

test('a bush begins on the map: a click, a bearing and a distance, a stem, a neighbour, a stand, a walk by hand', async ({
  page
}) => {
  const bushId = await signUpWithBush(page, 'Map Bush');
  // Of a bush that has no trees nothing is told as done.
  const trail = page.getByRole('navigation', { name: 'Stations' });
  await expect(trail.getByText('no trees yet')).toHaveCount(6);
  await page.goto(`/bush/${bushId}/identify/all`);
  await expect(page.getByText('There are no trees here yet.')).toBeVisible();
  await page.goto(`/bush/${bushId}/count/all`);
  await expect(page.getByRole('heading', { name: 'Nothing to count yet' })).toBeVisible();
  await page.goto(`/bush/${bushId}`);
  await page.getByRole('link', { name: 'A bush, tree by tree' }).click();
  const at = await mapOf(page);
  const form = page.getByTestId('tree-form');
  const enter = () => form.getByRole('button', { name: 'Put it in the book' }).click();
  await page.getByRole('button', { name: 'New tree' }).click();
  await page.mouse.click(...at(0.5, 0.5));
  await form.getByLabel('Species').selectOption('sugarMaple');
  await form.getByLabel('Size').fill('girth 120 cm');
  await enter();
  await expect(page.getByText('1 is in the book')).toBeVisible();
  await expect(trail.getByText('no trees yet')).toHaveCount(0);
  await form.getByLabel('Found').selectOption('bearing and distance');
  await form.getByRole('textbox', { name: 'From' }).fill('9');
  await form.getByRole('textbox', { name: 'Bearing' }).fill('90');
  await form.getByRole('textbox', { name: 'Distance' }).fill('8 m');
  await expect(form.getByRole('alert').first()).toContainText('Measure from a tree or plot');
  await form.getByRole('textbox', { name: 'From' }).fill('1');
  await enter();
  await expect(page.getByText('2 is in the book')).toBeVisible();
  await allSaved(page);
  const [one, two] = await treesOf(page, bushId);
  expect(two!.eastM! - one!.eastM!).toBeCloseTo(8, 1);
  expect(two!.positionQuality).toBe('paced');

  // A tag that hangs already is not taken twice.
  await form.getByLabel('Tag', { exact: true }).fill('1');
  await expect(form.getByRole('alert').last()).toContainText('hangs on another tree');

  await page.goto(`/bush/${bushId}/measure/${one!.id}`);
  await page.getByRole('button', { name: 'Another stem' }).click();
  await form.getByLabel('Size').fill('90 cm');
  await form.getByRole('button', { name: 'Add the stem' }).click();
  // sqrt(120^2 + 90^2) / pi, common practice for stems of one base.
  await expect(page.getByTestId('book')).toContainText('one trunk of 47.7 cm');
  await page.getByRole('button', { name: 'A neighbour without a tag' }).click();
  await form.getByRole('textbox', { name: 'Bearing' }).fill('180');
  await form.getByRole('textbox', { name: 'Distance' }).fill('3');
  await form.getByRole('button', { name: 'Note the neighbour' }).click();
  await expect(page.getByText('by 1 a is in the book')).toBeVisible();
  await allSaved(page);
  expect((await treesOf(page, bushId)).map((t) => t.tag)).toEqual(['1', 'by 1 a', '1b', '2']);

  // Taken out of the book, and put back.
  const stem = (await treesOf(page, bushId)).find((t) => t.tag === '1b')!;
  await page.goto(`/bush/${bushId}/measure/${stem.id}`);
  await page.getByRole('button', { name: 'Tag, stand, walk' }).click();
  await page.getByRole('button', { name: 'Take it out of the book' }).click();
  await expect(page.getByRole('heading', { name: 'No such tree' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'Tree 1b' })).toBeVisible();
  await allSaved(page);
  expect((await treesOf(page, bushId)).map((t) => t.tag)).toContain('1b');

  // A stand is drawn round them, and they belong to it.
  await page.goto(`/bush/${bushId}/map`);
  const again = await mapOf(page);
  await page.getByRole('button', { name: 'Stands' }).click();
  await page.getByRole('button', { name: 'Draw a stand' }).click();
  for (const corner of [again(0.1, 0.03), again(0.97, 0.03), again(0.97, 0.9)]) await page.mouse.click(...corner);
  await page.mouse.dblclick(...again(0.1, 0.97));
  const shape = page.getByTestId('shape-form');
  await expect(shape).toContainText('Inside the outline');
  await shape.getByLabel('Name').fill('Home Stand');
  await shape.getByLabel('Ground').selectOption('wet');
  await expect(shape).toContainText('4 trees inside shall belong to it');
  await shape.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Home Stand is on the map')).toBeVisible();
  await allSaved(page);
  const overview = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    stands: { id: string; wetness: string; areaHa: number }[];
    trees: { standId: string | null }[];
  };
  expect(overview.stands).toMatchObject([{ wetness: 'wet' }]);
  expect(overview.trees.every((t) => t.standId === overview.stands[0]!.id)).toBe(true);

  // A way in, one click, and the walk is looked for from there.
  await page.getByRole('button', { name: 'Draw a way in' }).click();
  await shape.getByLabel('Name').fill('Gate');
  await expect(shape.getByRole('button', { name: 'Keep it' })).toBeDisabled();
  await page.mouse.click(...again(0.95, 0.5));
  await shape.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Gate is on the map')).toBeVisible();
  const { features } = (await (await page.request.get(`/api/v1/bushes/${bushId}`)).json()) as {
    features: { kind: string; points: number[][] }[];
  };
  expect(features).toMatchObject([{ kind: 'entrance', points: [[expect.any(Number), expect.any(Number)]] }]);

  // The last tree is walked right after the first, by hand.
  await page.getByRole('button', { name: 'Walk', exact: true }).click();
  await expect(page.getByTestId('walk')).toContainText('The walk');
  await page.goto(`/bush/${bushId}/measure/${two!.id}`);
  await page.getByRole('button', { name: 'Tag, stand, walk' }).click();
  await page.getByLabel('Walked after').fill('1');
  await page.getByRole('button', { name: 'Change the line' }).click();
  await expect.poll(async () => (await treesOf(page, bushId)).map((t) => t.tag)).toEqual(['1', '2', 'by 1 a', '1b']);
});

test('waypoints come in, are known again, and go out; the whole bush is read back into another', async ({ page }) => {
  const bushId = await signUpWithBush(page, 'Points');
  const gpx = (name: string) =>
    `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="46.5" lon="-40"><name>A1</name><type>sugar maple</type></wpt><wpt lat="46.5001" lon="-40.0002"><name>${name}</name></wpt></gpx>`;
  const chooser = page.getByLabel('File', { exact: true });
  const give = (name: string, text: string) =>
    chooser.setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });
  const preview = page.getByTestId('preview');
  await give('bomb.gpx', '<!DOCTYPE gpx [<!ENTITY a "aaaa">]><gpx><wpt lat="1" lon="1"><name>&a;</name></wpt></gpx>');
  await expect(page.getByRole('alert')).toContainText('document type');
  await give('points.gpx', gpx('A2'));
  await expect(preview).toContainText('2 new trees');
  await bringIn(page);
  await expect(preview).toContainText('nothing new. 2 trees are here already');
  await give('more.gpx', gpx('A3'));
  await expect(preview).toContainText('1 row names a tree that this bush does not have');
  await page.getByRole('button', { name: 'All of them are new trees' }).click();
  await expect(preview).toContainText('1 new tree');
  await page.getByLabel(/Bring in trees whose tags/).uncheck();
  await expect(preview).toContainText('no tree of this bush has the tag "A3"');

  const table = await (await page.request.get(`/api/v1/bushes/${bushId}/files/trees.csv`)).text();
  expect(table.trim().split('\n')).toHaveLength(3);
  expect(table).toContain('A1,,sugar maple');
  const back = await (await page.request.get(`/api/v1/bushes/${bushId}/files/trees.gpx`)).text();
  expect(back).toMatch(/<wpt lat="46\.50010\d+" lon="-40\.000(20|19)\d+">\s*<name>A2/);
  for (const file of ['tables.zip', 'bush.geojson', 'readings.csv'])
    expect((await page.request.get(`/api/v1/bushes/${bushId}/files/${file}`)).ok()).toBe(true);

  // A column of girths under the wrong name shows as a whole.
  const girths = Array.from({ length: 15 }, (_, i) => `G${i},${95 + 4 * i}`).join('\n');
  await give('girths.csv', `tag,diameter_cm\n${girths}`);
  await expect(page.getByTestId('column-question')).toContainText('Are these girths called diameters');
  await page.getByRole('button', { name: /^Read them as girths/ }).click();
  await expect(page.getByTestId('column-question')).toBeHidden();
  await expect(preview).toContainText('15 sizes have no day');
  await preview.getByLabel('On or about').fill('2026-10-04');
  await page.getByRole('button', { name: 'Use it for all 15' }).click();
  await expect(preview).toContainText('15 new trees');
  await bringIn(page);
  await expect(preview).toContainText('nothing new');

  // Everything, into a new bush.
  const archive = await (await page.request.get(`/api/v1/bushes/${bushId}/files/archive.json`)).text();
  await give('archive.json', archive);
  await expect(page.getByTestId('archive')).toContainText('only be read into an empty one');
  await page.goto('/bushes');
  await page.getByLabel('Name of a new bush').fill('Copy');
  await page.getByRole('button', { name: 'Make the bush' }).click();
  await page.getByRole('link', { name: 'A list in a file' }).click();
  await page.waitForURL(/exchange/);
  const copyId = bushIdOf(page);
  await give('archive.json', archive);
  await page.getByRole('button', { name: 'Read it into this bush' }).click();
  await expect(page.getByText('17 trees with')).toBeVisible();
  expect((await treesOf(page, copyId)).map((t) => [t.tag, t.dbhMm, t.eastM])).toEqual(
    (await treesOf(page, bushId)).map((t) => [t.tag, t.dbhMm, t.eastM])
  );
  await expectAccessible(page);
});

test('a caliper fills a reading, a receiver finds a place, and a key lets a program in', async ({ page, request }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  const { devices } = (await (await page.request.get('/api/v1/devices')).json()) as {
    devices: { kind: string; url: string }[];
  };
  const address = (kind: string) => devices.find((d) => d.kind === kind)!.url.replace('ws:', 'http:');
  const tree = (await treesOf(page, bushId)).find((t) => t.questions === 0 && t.dbhMm !== null && t.dbhMm > 300)!;
  await page.goto(`/bush/${bushId}/measure/${tree.id}`);
  await page.getByRole('button', { name: 'Listen to the simulated caliper' }).click();
  await expect(page.getByText('Listening to the simulated caliper')).toBeVisible();
  const mm = Math.round(tree.dbhMm! + 1);
  await expect(async () => {
    await request.post(`${address('caliper')}/press`, { data: { mm } });
    await expect(page.getByTestId('reading')).toHaveValue(`${(mm / 10).toFixed(1)} cm`, { timeout: 1000 });
  }).toPass();
  await expect(page.getByLabel('Measured with')).toHaveValue('calipers');
  await page.getByRole('button', { name: 'Save the reading' }).click();
  await allSaved(page);
  const readings = (await recordsOf(page, bushId, tree.id)).filter((r) => r.kind === 'reading');
  expect(readings.find((r) => r.method === 'calipers')).toMatchObject({
    kind: 'reading',
    valueMm: mm,
    method: 'calipers'
  });

  await page.getByRole('button', { name: 'Place it anew' }).click();
  await page.getByLabel('Found').selectOption('by a receiver, here');
  await page.getByRole('button', { name: 'simulated receiver' }).click();
  await expect(page.getByText(/[2-9] fixes so far, within about [23]\.\d m/)).toBeVisible();
  await page.getByTestId('book').getByRole('button', { name: 'Stop' }).click();

  await page.goto(`/bush/${bushId}/exchange`);
  await page.getByLabel('For which program').fill('test script');
  await page.getByRole('button', { name: 'Make a key' }).click();
  const key = (await page.getByTestId('token').textContent())!;
  // `request` holds no cookie of the page: only the key opens the door.
  const asking = { headers: { authorization: `Bearer ${key}` } };
  expect((await request.get('/api/v1/bushes')).status()).toBe(401);
  expect(await (await request.get('/api/v1/bushes', asking)).json()).toMatchObject({ bushes: [{ id: bushId }] });
  expect(
    (await request.post(`/api/v1/bushes/${bushId}/records`, { ...asking, data: { records: [{}] } })).status()
  ).toBe(403);
  expect((await request.get('/api/v1/tokens', asking)).status()).toBe(403);
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByRole('button', { name: 'Take back' })).toBeHidden();
  expect((await request.get('/api/v1/bushes', asking)).status()).toBe(401);
  expect(((await (await request.get('/api/v1/openapi.json')).json()) as { openapi: string }).openapi).toBe('3.1.0');
});

test('help, finding and the words of the trade lie on top of the map, in both sizes and themes', async ({ page }) => {
  await signIn(page);
  const bushId = bushIdOf(page);
  /** Of a grid of places over what is named, how many have something of the page drawn over them. */
  const covered = (selector: string) =>
    page.evaluate((wanted) => {
      const shown = [...document.querySelectorAll(wanted)].find((e) => e.getBoundingClientRect().width > 0)!;
      const box = shown.getBoundingClientRect();
      let over = 0;
      for (let x = 0.1; x < 1; x += 0.2)
        for (let y = 0.1; y < 1; y += 0.2) {
          const top = document.elementFromPoint(box.left + x * box.width, box.top + y * box.height);
          if (!top || !shown.contains(top)) over++;
        }
      return over;
    }, selector);
  const sizes = shortOrLong(
    [
      ['snow', 390],
      ['night', 1280]
    ],
    [
      ['snow', 1280],
      ['snow', 390],
      ['night', 1280],
      ['night', 390]
    ]
  ) as [string, number][];
  for (const [theme, width] of sizes) {
    await page.setViewportSize({ width, height: 800 });
    await page.evaluate(
      (name) => localStorage.setItem('baumkin-preferences', JSON.stringify({ units: 'metric', theme: name })),
      theme
    );
    // The opening page shows no map on a phone.
    for (const path of width > 768 ? ['', '/map'] : ['/map']) {
      await page.goto(`/bush/${bushId}${path}`);
      await expect(page.locator('.stand-map').first()).toBeVisible();
      await page.locator('body').click({ position: { x: 2, y: 400 } });
      for (const [key, title] of [
        ['?', 'Help'],
        ['/', 'Find a tree by its tag']
      ] as const) {
        await page.keyboard.press(key);
        await expect(page.getByRole('dialog', { name: title })).toBeVisible();
        expect(await covered('dialog[open]'), `${title} over ${path || 'the opening page'}`).toBe(0);
        await page.keyboard.press('Escape');
        await expect(page.getByRole('dialog')).toHaveCount(0);
      }
    }
    if (width <= 768) {
      await page.getByRole('button', { name: 'More' }).click();
      expect(await covered('dialog[open]'), 'what a phone’s top line has no room for').toBe(0);
      await page.getByRole('button', { name: 'Help', exact: true }).click();
      const help = page.getByRole('dialog', { name: 'Help' });
      await expect(help).toContainText('Click where a tree stands');
      await help.getByRole('button', { name: 'Words' }).click();
      await help.getByLabel('Find a word').fill('cross-section');
      await expect(page.getByTestId('words')).toContainText('basal area');
      await expect(page.getByTestId('words')).not.toContainText('taphole:');
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toHaveCount(0);
    }
    await page.goto(`/bush/${bushId}/thin/plan`);
    const term = page.getByTestId('in-short').getByRole('button', { name: 'crop trees' });
    await term.click();
    await expect(page.getByRole('tooltip')).toContainText('the stand is managed for');
    expect(await covered('[role=tooltip]'), 'the word explained').toBe(0);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('tooltip')).toHaveCount(0);
  }
});
