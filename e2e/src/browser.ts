// Debian's Chromium, headless, through ChromeDriver.

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Builder, By, until, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';

export const phone = { width: 390, height: 844 } as const;
export const wide = { width: 1280, height: 800 } as const;

export type Browser = {
  readonly driver: WebDriver;
  /** Waits for an element with this test id to be there and shown. */
  find(testId: string): Promise<WebElement>;
  press(testId: string): Promise<void>;
  /** As a hand does: by way of places between. @param by pixels */
  drag(testId: string, by: { readonly x: number; readonly y: number }): Promise<void>;
  type(testId: string, text: string): Promise<void>;
  /** Presses what asks for a file, and gives it one. @param file a path */
  chooseFile(testId: string, file: string): Promise<void>;
  /** Waits until the page says these words. */
  reads(words: string | RegExp, milliseconds?: number): Promise<void>;
  /** Runs code at the start of every page that is opened from now on, before its own. */
  onEveryPage(code: string): Promise<void>;
  size(size: { width: number; height: number }, light?: 'light' | 'dark'): Promise<void>;
  shot(file: string): Promise<void>;
  consoleErrors(): Promise<string[]>;
  close(): Promise<void>;
};

const patience = 20_000;
const switches = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--hide-scrollbars',
  '--autoplay-policy=no-user-gesture-required',
];

export async function openBrowser(): Promise<Browser> {
  const profile = mkdtempSync(path.join(tmpdir(), 'nibber-chromium-'));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(...switches, `--user-data-dir=${profile}`);
  // A live picture never finishes loading.
  options.setPageLoadStrategy('eager');
  options.setLoggingPrefs({ browser: 'ALL' } as never);
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  const command = (name: string, parameters: object) =>
    (driver as unknown as { sendDevToolsCommand(n: string, p: object): Promise<void> }).sendDevToolsCommand(name, parameters);
  const find = async (testId: string) => {
    const element = await driver.wait(until.elementLocated(By.css(`[data-testid="${testId}"]`)), patience, `no element ${testId}`);
    return driver.wait(until.elementIsVisible(element), patience, `element ${testId} is hidden`);
  };
  const press = async (testId: string) => {
    let isCovered = false;
    // An element may be drawn again between finding and pressing it; then it is found again.
    await driver.wait(async () => {
      try {
        const element = await find(testId);
        // To where nothing stands over it.
        if (isCovered) await driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
        await element.click();
        return true;
      } catch (thrown) {
        isCovered = /intercepted/i.test((thrown as Error).name + (thrown as Error).message);
        if (isCovered || /stale/i.test((thrown as Error).name + (thrown as Error).message)) return false;
        throw thrown;
      }
    }, patience);
  };
  return {
    driver,
    find,
    press,
    async drag(testId, { x, y }) {
      const origin = await find(testId);
      const way = [0.3, 0.6, 0.9, 1].map((share) => ({ origin, x: Math.round(x * share), y: Math.round(y * share) }));
      const held = driver.actions().move({ origin }).press();
      await way
        .reduce((hand, to) => hand.move(to), held)
        .release()
        .perform();
    },
    async type(testId, text) {
      await (await find(testId)).sendKeys(text);
    },
    async chooseFile(testId, file) {
      await command('Page.setInterceptFileChooserDialog', { enabled: true });
      await press(testId);
      const input = await driver.wait(until.elementLocated(By.css('input[data-testid="file"]')), patience, 'no file is asked for');
      await input.sendKeys(file);
    },
    async reads(words, milliseconds = patience) {
      const isThere = async () => {
        const text = (await driver.executeScript('return document.body.innerText')) as string;
        return typeof words === 'string' ? text.includes(words) : words.test(text);
      };
      await driver.wait(isThere, milliseconds, `the page never says ${words}`);
    },
    onEveryPage: (source) => command('Page.addScriptToEvaluateOnNewDocument', { source }),
    async size({ width, height }, light = 'light') {
      await command('Emulation.setDeviceMetricsOverride', { width, height, deviceScaleFactor: 1, mobile: width < 600 });
      await command('Emulation.setEmulatedMedia', { features: [{ name: 'prefers-color-scheme', value: light }] });
    },
    shot: async (file) => writeFileSync(file, await driver.takeScreenshot(), 'base64'),
    consoleErrors: async () => (await driver.manage().logs().get('browser')).filter((l) => l.level.name === 'SEVERE').map((l) => l.message),
    async close() {
      await driver.quit();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
