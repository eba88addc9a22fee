import { expect, expectAccessible, logIn, people, rowWith, test } from '../coffer.ts';

const page1 = [
  '%PDF-1.4',
  '1 0 obj<</Type/Catalog/Pages 2 0 R/OpenAction<</S/JavaScript/JS(app.alert\\(1\\))>>>>endobj',
  '2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj',
  '3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 100]/Contents 4 0 R>>endobj',
  '4 0 obj<</Length 34>>stream',
  '1 0 0 rg 0 0 200 100 re f         ',
  'endstream endobj',
  'trailer<</Root 1 0 R>>',
  '%%EOF',
].join('\n');
const point = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=';

test('papers are brought to an instrument, shown as pictures of their pages, and taken away with a reason', async ({
  page,
}) => {
  await logIn(page);
  await rowWith(page, 'Annealing line loan').getByText('Annealing line loan').click();
  await page.getByRole('tab', { name: 'Papers' }).click();
  await expect(page.getByText('No paper yet.')).toBeVisible();
  await expectAccessible(page);
  const files = page.getByLabel('Papers, PDF, PNG or JPEG');
  await files.setInputFiles([
    { name: 'Stamp.png', mimeType: 'image/png', buffer: Buffer.from(point, 'base64') },
    { name: 'Letter.pdf', mimeType: 'application/pdf', buffer: Buffer.from('Dear Sirs,') },
    { name: 'Agreement.pdf', mimeType: 'application/pdf', buffer: Buffer.from(page1) },
  ]);
  // What cannot be kept is told by its name, and stops no others.
  await expect(page.getByRole('alert')).toContainText('Letter.pdf: A paper is a PDF, a PNG or a JPEG');
  const drawn = page.getByRole('img', { name: 'Page 1 of 1, Agreement.pdf' });
  await expect(drawn).toBeVisible();
  const colour = (): Promise<number[]> =>
    drawn.evaluate((canvas: HTMLCanvasElement) => [
      ...(canvas.getContext('2d')?.getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data ?? []),
    ]);
  await expect.poll(colour).toEqual([255, 0, 0, 255]);
  await expectAccessible(page);

  await page.getByRole('button', { name: /^Stamp\.png/ }).click();
  await expect(page.getByRole('img', { name: 'Stamp.png' })).toBeVisible();
  await page.getByRole('button', { name: 'Take Stamp.png away' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Why' }).fill('Of another loan');
  await dialog.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByRole('button', { name: /^Stamp\.png/ })).toHaveCount(0);
  await expect(drawn).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save' }).click();
  expect((await saved).suggestedFilename()).toBe('Agreement.pdf');
});

test('an auditor reads papers and is offered no change', async ({ page }) => {
  await logIn(page, people.auditor);
  await rowWith(page, 'Annealing line loan').getByText('Annealing line loan').click();
  await page.getByRole('tab', { name: 'Papers' }).click();
  await expect(page.getByRole('img', { name: 'Page 1 of 1, Agreement.pdf' })).toBeVisible();
  await expect(page.getByRole('button', { name: /Bring papers|away$/ })).toHaveCount(0);
});
