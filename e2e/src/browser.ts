import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, type WebDriver } from 'selenium-webdriver';
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-dev-shm-usage',
  '--force-color-profile=srgb',
  '--hide-scrollbars',
  '--lang=en-GB',
  '--accept-lang=en-GB',
];

export interface BrowserOptions {
  width?: number;
  height?: number;
  /** The colours the operating system asks for. */
  dark?: boolean;
}

export interface Browser {
  driver: WebDriver;
  /** Lets everything be fetched anew and late, as far away from the server. */
  slowDown: () => Promise<void>;
  quit: () => Promise<void>;
}

/** Opens headless Chromium with a profile of its own, its page exactly so many pixels large. */
export async function openBrowser({
  width = 1280,
  height = 800,
  dark = false,
}: BrowserOptions = {}): Promise<Browser> {
  const profile = mkdtempSync(join(tmpdir(), 'zawn-browser-'));
  const options = new Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(...FLAGS, `--user-data-dir=${profile}`, `--window-size=${width},${height}`);
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  const devTools = driver as WebDriver & {
    sendDevToolsCommand: (command: string, parameters: object) => Promise<void>;
  };
  await devTools.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height,
    deviceScaleFactor: 1,
    mobile: false,
  });
  await devTools.sendDevToolsCommand('Emulation.setEmulatedMedia', {
    features: [
      { name: 'prefers-color-scheme', value: dark ? 'dark' : 'light' },
      { name: 'prefers-reduced-motion', value: 'reduce' },
    ],
  });
  await devTools.sendDevToolsCommand('Emulation.setLocaleOverride', { locale: 'en-GB' });
  return {
    driver,
    slowDown: async () => {
      await devTools.sendDevToolsCommand('Network.enable', {});
      await devTools.sendDevToolsCommand('Network.setCacheDisabled', { cacheDisabled: true });
      await devTools.sendDevToolsCommand('Network.emulateNetworkConditions', {
        offline: false,
        latency: 250,
        downloadThroughput: 250_000,
        uploadThroughput: 250_000,
      });
    },
    quit: async () => {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
