import { defineConfig } from '@playwright/test';
export default defineConfig({
  testDir: '/work/main/e2e',
  outputDir: '/tmp/pwout',
  workers: 1,
  timeout: 40000,
  expect: { timeout: 5000 },
  use: {
    baseURL: 'http://127.0.0.1:8420',
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    screenshot: 'only-on-failure',
    launchOptions: { executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] },
  },
});
