// The interface in Debian's Chromium. Each worker has a demo kitchen of its own (kitchen.js).
import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testIgnore: process.env.SHOTS ? [] : ['screenshots.spec.js'],
  outputDir: 'test-results',
  // A page is a test, so two cores are shared evenly.
  fullyParallel: true,
  workers: 2,
  // A busy machine may stall the browser; what needs the second try is reported as flaky.
  retries: process.env.CI ? 1 : 0,
  forbidOnly: Boolean(process.env.CI),
  // Two browsers and two servers on two slow cores: a walk of eight seconds takes thirty there.
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'on-first-retry',
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
    { name: 'phone', use: { viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true, deviceScaleFactor: process.env.SHOTS ? 2 : 1 } },
  ],
});
