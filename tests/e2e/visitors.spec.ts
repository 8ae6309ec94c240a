import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { base, choose, linkIn, newDevice, next, passDoor, readPost, sendPacket, signIn } from './steps';

const script = '"><img src=x onerror="document.title=\'taken\'"><script>document.title="taken"</script>{{link}}';
const arabic = 'أنام خمس ساعات (5) في الليل';

/** Answers everything that is required, with the given words for the main concern and the first name. */
async function fillShort(client: Page, firstName: string, concern: string): Promise<void> {
  await client.getByLabel('First name').fill(firstName);
  await client.getByLabel('Last name').fill('Haddad');
  await client.getByRole('spinbutton', { name: /^day, Birth date/ }).click();
  await client.keyboard.type('05121994');
  await next(client);
  await client.getByLabel('Phone', { exact: true }).fill('020 7946 0623');
  await client.getByLabel('Who should we call').fill('Sami');
  await client.getByLabel('Their phone').fill('020 7946 0624');
  await next(client);
  for (const question of [/an illness or condition/, /medicines or supplements/, /have allergies/, /operation or a bad injury/]) await choose(client, question, 'No');
  await next(client);
  await next(client);
  await client.getByLabel('What would you like help with?').fill(concern);
  await next(client);
  await choose(client, /I agree to care/, 'Yes');
  await choose(client, /leave a message/, 'No');
  await next(client);
  await client.getByRole('button', { name: 'Sign', exact: true }).click();
  await expect(client.getByRole('heading', { name: /Over the last 2 weeks/ })).toBeVisible();
  for (let i = 1; i <= 9; i++) await choose(client, new RegExp(`^${i}\\. `), 'Not at all');
  await next(client);
  await client.getByRole('button', { name: /^Send to/ }).click();
  await expect(client.getByRole('heading', { name: 'Thank you. It is sent.' })).toBeVisible();
}

test('what a client writes is shown as they wrote it, and does nothing: markup, placeholders, right to left', async ({ page, browser }) => {
  const titles: string[] = [];
  page.on('framenavigated', () => void page.title().then((t) => titles.push(t), () => undefined));
  await signIn(page);
  await sendPacket(page, 'ليلى حداد');
  const device = await newDevice(browser);
  const client = await device.newPage();
  await passDoor(client, page, linkIn(await readPost(page, 'Personal link', 'ليلى حداد')), 'ليلى حداد');
  await fillShort(client, script, `${arabic}\n${script}`);
  await device.close();

  await page.goto('/returns');
  await page.getByRole('link', { name: 'Read ليلى حداد' }).click();
  await expect(page.getByText(script).first()).toBeVisible();
  await expect(page.getByText(arabic)).toBeVisible();
  expect(await page.locator('dd', { hasText: arabic }).evaluate((el) => [el.getAttribute('dir'), getComputedStyle(el).direction])).toEqual(['auto', 'rtl']);
  await page.getByRole('link', { name: 'Lay beside the chart' }).click();
  const decision = page.getByRole('radiogroup', { name: 'Decision for First name' });
  await expect(decision.getByRole('radio', { name: 'Keep what is on file' })).toBeChecked();
  // Every line that asks is decided by writing it oneself, with the client's words to start from.
  await page.getByRole('radiogroup', { name: 'Decision for Main concern' }).getByText('Write it myself').click();
  await page.getByLabel('Write it as it should stand').fill(`${arabic} ${script}`);
  for (const group of await page.getByRole('radiogroup', { name: /^Decision for/ }).all())
    if ((await group.getByRole('radio', { checked: true }).count()) === 0) await group.getByRole('radio').first().check({ force: true });
  await page.getByRole('button', { name: /^Post / }).click();
  await expect(page.getByText('Posted.')).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('ليلى حداد');
  await expect(page.getByText(`${arabic} ${script}`).first()).toBeVisible();
  await page.getByRole('link', { name: 'Draft a note from the answers' }).click();
  await page.getByRole('button', { name: 'Draft the note' }).click();
  await expect(page.getByText(script).first()).toBeVisible();
  expect(await page.title()).not.toContain('taken');
  expect(titles.join()).not.toContain('taken');

  await page.goto('/returns');
  await page.getByRole('link', { name: 'ليلى حداد', exact: true }).click();
  const intake = page.getByRole('region', { name: 'Before your first visit' });
  const [file] = await Promise.all([page.waitForEvent('download'), intake.getByRole('link', { name: 'FHIR' }).click()]);
  expect(readFileSync(await file.path(), 'utf8')).toContain(JSON.stringify(arabic).slice(1, -1));
});

test('addresses that lead nowhere say so, and give nothing away', async ({ page }) => {
  await signIn(page);
  for (const path of ['/people/00000000-0000-4000-8000-000000000000', '/people/1', '/notes/x', '/returns/..%2f..%2fetc', '/packets/00000000-0000-4000-8000-000000000000', '/library/x', '/nowhere', "/people/'; drop table client; --"]) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: 'Nothing here' }), path).toBeVisible();
  }
  for (const path of ['/api/parts/x/paper', '/api/parts/00000000-0000-4000-8000-000000000000/response', '/api/versions/x']) expect((await page.request.get(path)).status(), path).toBe(404);
  await page.goto('/day?on=2026-99-99');
  await expect(page.getByRole('heading', { name: 'Nothing here' })).toBeVisible();
});

test('two people decide about one return: the second is told, and keeps what they decided', async ({ page, browser }) => {
  await signIn(page);
  const other = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: base });
  const colleague = await other.newPage();
  await signIn(colleague, 'tobias');
  await page.goto('/returns');
  const href = (await page.getByRole('link', { name: 'Hugo Lindgren', exact: true }).getAttribute('href'))!;
  for (const p of [page, colleague]) {
    await p.goto(`${href}/reconcile`);
    await expect(p.getByRole('heading', { name: 'Reconcile Hugo Lindgren' })).toBeVisible();
    for (const group of await p.getByRole('radiogroup', { name: /^Decision for/ }).all())
      if ((await group.getByRole('radio', { checked: true }).count()) === 0) await group.getByRole('radio').first().check({ force: true });
  }
  await page.getByRole('button', { name: /^(Post|Settle) / }).click();
  await expect(page.getByText('Posted.')).toBeVisible();
  await colleague.getByRole('button', { name: /^(Post|Settle) / }).click();
  await expect(colleague.getByText('This packet was posted already, perhaps by a colleague. Nothing was posted again.')).toBeVisible();
  await expect(colleague.getByRole('heading', { name: 'Reconcile Hugo Lindgren' })).toBeVisible();
  await other.close();
});
