import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** The same browser without windows that nobody sees; `npm test` installs it. */
const headless = '/usr/bin/chromium-headless-shell';
const port = Number(process.env.E2E_PORT ?? 4750);
/** The server with nothing in it is started where its tests are among those that are asked for. */
const asked = process.argv.filter((word) => word.includes('.spec'));
const fresh = asked.length === 0 || asked.some((word) => word.includes('intake'));

export default defineConfig({
  testDir: '.',
  timeout: 120_000,
  // an action that finds nothing in this time fails and says where

  expect: { timeout: 10_000 },
  fullyParallel: false,
  workers: 1,
  reporter: [['json'], ['line']],
  outputDir: `../.cache/browser-tests-${port}`,
  use: {
    actionTimeout: 15_000,
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: existsSync(headless) ? headless : '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node e2e/serve.mjs',
    cwd: '..',
    url: `http://localhost:${port}/api/health`,
    env: { E2E_PORT: String(port), TEST_DATABASE: process.env.TEST_DATABASE ?? '', FRESH: fresh ? 'yes' : 'no' },
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
    timeout: 60_000,
  },
});
