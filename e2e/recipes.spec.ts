import { expect, test } from '@playwright/test';
import { people, signIn } from './pages/app.js';

const report = {
  underpass: 1,
  at: '2026-11-27T12:00:00Z',
  release: '12.5',
  packages: { 'desktop-server': '1.4-2', 'display-server': null, 'session-sound': '0.9', 'session-sound-bridge': null },
  services: { 'desktop-server.service': { enabled: false, running: true } },
  sections: [
    { file: '/etc/desktop-server/host.ini', section: 'virtual socket', state: 'off', keys: {} },
    { file: '/etc/desktop-server/host.ini', section: 'security', state: 'on', keys: { layer: 'tls' } },
  ],
  ports: { 'tcp/5950': true },
  groups: { 'desktop-users': true },
  certificates: [{ file: '/etc/desktop-server/host.pem', notAfter: null }],
};

test('a host’s report is held against a recipe: what is to do, what is not known, and what another release makes of it', async ({
  page,
}) => {
  await signIn(page, people.engineer, '/bringup');
  await page.getByRole('link', { name: 'Recipes for hosts' }).click();
  await expect(page.getByRole('heading', { name: 'Desktop for a session of one person' })).toBeVisible();
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Take the script' }).click();
  expect((await waiting).suggestedFilename()).toBe('desktop-host.sh');
  const box = page.getByLabel('Report of a host');
  await box.fill('{"underpass": 1,');
  await expect(page.getByText(/That is no JSON/)).toBeVisible();
  await box.fill('[]');
  await expect(page.getByText(/^That is no report of a host\. Run the script/)).toBeVisible();
  await box.fill(JSON.stringify({ ...report, ports: 'all' }));
  await expect(page.getByText(/^ports: .*Run the script of this recipe/)).toBeVisible();
  await box.fill(JSON.stringify(report));
  await expect(page.getByRole('heading', { name: '2 steps are to do, 1 not known' })).toBeVisible();
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps.getByRole('listitem').filter({ hasText: 'desktop-server.service is enabled' })).toContainText(
    'runs, and is not enabled: it is gone after the next start',
  );
  await expect(steps.getByRole('listitem').filter({ hasText: 'Section of the virtual machine' })).toContainText('switched off by comments');
  await expect(steps.getByRole('listitem').filter({ hasText: 'Display server' })).toContainText('does not apply');
  await expect(steps.getByRole('listitem').filter({ hasText: 'Certificate of the host' })).toContainText('not known');
  const other = page.getByRole('region', { name: 'With another release' });
  await expect(other.getByText('Display server comes: display-server is installed.')).toBeVisible();
  await expect(other.getByText('Section of the virtual machine goes')).toBeVisible();
  await other.getByLabel('to').fill('15');
  await expect(other.getByText('The recipe is not for release 15.')).toBeVisible();
});
