import { expect, test } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';

import { OFFICE_OPEN } from '../core/test/workbooks.ts';
import { IN_HOLES, IN_TREES, messyHoles, messyTrees } from '../core/test/messyFile.ts';
import { bringIn, expectAccessible, expectFits, signUpWithBush, treesOf } from './support.ts';

/** Fifteen hundred trees and their holes, out of a steward's own spreadsheets. */
test('a messy list is understood, asked about once, and comes in without a silent mistake', async ({ page }, {
  annotations
}) => {
  test.slow();
  const bushId = await signUpWithBush(page, 'Messy Bush');
  const chooser = page.getByLabel('File', { exact: true });
  const give = (name: string, text: string) =>
    chooser.setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  const preview = page.getByTestId('preview');
  const questions = page.getByTestId('questions');

  const begun = Date.now();
  await give('trees.csv', messyTrees().text);
  await expect(preview).toBeVisible();
  annotations.push({
    type: 'measured',
    description: `a list of ${IN_TREES.trees} trees: understood after ${Date.now() - begun} ms`
  });
  await expect(questions).toContainText('4 words for species are not sure to me');
  await expect(questions).toContainText(`${IN_TREES.undated} sizes have no day`);
  await expect(questions).toContainText(`${IN_TREES.twoSizes} tags stand twice`);
  await expect(questions).toContainText(/\d+ sizes look like something else/);
  await expect(preview).toContainText('To be mended in the file');
  await expectAccessible(page);
  await expectFits(page);

  // What is not told yet holds nobody up, and each question is answered once for all its rows.
  await questions.getByLabel('hrd mpl').selectOption('sugarMaple');
  await questions.getByRole('button', { name: /^Use these for all \d+ rows/ }).click();
  await expect(questions).not.toContainText('words for species');
  await questions.getByLabel('On or about').fill('2024-10-01');
  await questions.getByRole('button', { name: /^Use it for all/ }).click();
  await expect(questions).not.toContainText('have no day');
  await questions.getByRole('button', { name: /^One: take the first size/ }).click();
  await expect(questions).not.toContainText('stand twice');
  await questions.getByRole('button', { name: /^Read them as girths/ }).click();
  await expect(questions).toBeHidden();
  const left = IN_TREES.future + IN_TREES.noSize;
  await expect(preview).toContainText(`${IN_TREES.trees - left} new trees`);
  await expect(preview).toContainText(`${left} rows left out.`);
  await bringIn(page);
  await expect(preview).toContainText(/nothing new\. 14\d\d trees are here already/);

  // What the book knows now, what it lacks, and what helps next.
  const known = page.getByTestId('known');
  await expect(known).toContainText(/14\d\d trees: \d+ settled, 14\d\d measured \(0 of them twice or cored\)/);
  await expect(known).toContainText(/Of \d+ maples no earlier hole is known/);

  // The holes speak of those trees: what is none of them is asked about.
  await give('holes.csv', messyHoles());
  await expect(questions).toContainText('a tree that this bush does not have. Mistyped, or new?');
  await expect(preview).toContainText(/\d{4} tapholes/);
  const it = questions.getByRole('button', { name: /^It is \d+$/ }).first();
  await it.click();
  await expect(preview).toContainText(/\d{4} tapholes/);
  await expectAccessible(page);
  await bringIn(page);
  expect(await treesOf(page, bushId)).toHaveLength(IN_TREES.trees - left);
  await expect(preview).toContainText(new RegExp(`${IN_HOLES.future} rows`));

  // A wrong import is taken back whole.
  const brought = page.getByTestId('brought');
  await expect(brought).toContainText(/holes\.csv: \d{4} tapholes/);
  await brought.getByRole('button', { name: 'Take it back …' }).first().click();
  const sure = page.getByRole('dialog', { name: 'Take this import back?' });
  await expect(sure).toContainText('holes.csv');
  await sure.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText(/^Taken back: \d{4} records, 0 trees\.$/)).toBeVisible();
  await expect(brought).toContainText('taken back');
  // What is gone again is new again in the file that lies here still.
  await expect(preview).toContainText(/New in holes\.csv: \d{4} tapholes/);
  expect(await treesOf(page, bushId)).toHaveLength(IN_TREES.trees - left);
  await expectAccessible(page);

  // The columns can be said otherwise, and are remembered for the next list of the same hand.
  await give('next.csv', 'tag,wood,Tiefe\n2000,SM,x\n2001,SM,y\n2002,SM,');
  await expect(preview).toContainText('3 new trees');
  await preview.getByLabel('What “Tiefe” tells').selectOption('note');
  await expect(preview).toContainText('2 notes');
});

test('a workbook opens at the sheet that tells of trees', async ({ page }) => {
  await signUpWithBush(page, 'Sheets');
  const notes =
    '<worksheet><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>Plan of the winter</t></is></c></row></sheetData></worksheet>';
  const parts = { ...OFFICE_OPEN, 'xl/worksheets/sheet1.xml': notes };
  const bytes = zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)])));
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'trees.xlsx', mimeType: 'application/octet-stream', buffer: Buffer.from(bytes) });
  await expect(page.getByTestId('preview')).toContainText('2 new trees, 2 readings, 2 species');
  const sheets = page.getByLabel(/The workbook has 2 sheets/);
  await expect(sheets.locator('option:checked')).toHaveText('Trees');
  await expectAccessible(page);
  await sheets.selectOption('Plan');
  await expect(page.getByRole('alert')).toContainText('None of the columns is seen to be the tag of a tree');
});
