// The interface in Debian's Chromium, against the demo kitchen at a quarter to five in the afternoon.
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';

const data = process.env.CEREALIS_E2E_DATA ?? (process.env.CEREALIS_E2E_DATA = mkdtempSync(join(tmpdir(), 'cerealis-e2e-')));
const address = `127.0.0.1:${process.env.CEREALIS_E2E_PORT ?? 8092}`;

export default defineConfig({
  testDir: '.',
  testIgnore: process.env.SHOTS ? [] : ['screenshots.spec.js'],
  outputDir: 'test-results',
  workers: 1,
  // A busy machine may stall the browser; what needs the second try is reported as flaky.
  retries: process.env.CI ? 1 : 0,
  forbidOnly: Boolean(process.env.CI),
  timeout: 30_000,
  reporter: [['list']],
  use: {
    baseURL: `http://${address}`,
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage', '--disable-quic', '--disable-background-networking',
        '--disable-component-update', '--disable-sync', '--no-first-run', '--disable-domain-reliability',
        '--disable-features=Translate,OptimizationHints,MediaRouter,AutofillServerCommunication',
        '--force-color-profile=srgb', '--font-render-hinting=none',
      ],
    },
  },
  projects: [
    { name: 'laptop', use: { viewport: { width: 1280, height: 800 } } },
    { name: 'phone', use: { viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true, deviceScaleFactor: process.env.SHOTS ? 2 : 3 } },
  ],
  webServer: {
    command: `target/debug/cerealis demo --clock 2026-11-06T16:40:00+00:00,1 --data ${data} --listen ${address}`,
    cwd: '..',
    url: `http://${address}/health`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
  },
});
