// Renders the scenery again: `npm run scenery [-- CAMERA|FIGURE…]`. Only needed when the place or its people
// look like; the results are kept in ../assets. Needs Debian's chromium and chromium-driver; about fifteen minutes.

import { createServer } from 'node:http';
import { writeFileSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { Builder } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';
import sharp from 'sharp';
import { poses } from '../../src/cameras/view';
import { cast, type CellRecord, type FigureName, type SheetRecord } from '../../src/cameras/cast';
import type { Light, SpriteShot, WorkshopApi } from './workshop';

const assets = path.join(__dirname, '..', 'assets');
const lights: readonly Light[] = ['day', 'night'];
const headings = 8;
const sheetWidth = 2400;
/** Words on a thing are drawn as finely as a full picture of it close by. */
const scaleOf = (member: object) => ('plate' in member || 'letters' in member ? 3 : 2);

type Page = <K extends keyof WorkshopApi>(call: K, ...args: Parameters<WorkshopApi[K]>) => Promise<ReturnType<WorkshopApi[K]>>;

async function openPage(): Promise<{ call: Page; close: () => Promise<void> }> {
  const bundle = await build({ entryPoints: [path.join(__dirname, 'page.ts')], bundle: true, write: false, format: 'iife' });
  const script = bundle.outputFiles[0]!.text;
  const server = createServer((request, response) => {
    const isScript = request.url === '/page.js';
    response.setHeader('content-type', isScript ? 'text/javascript' : 'text/html');
    response.end(isScript ? script : '<!doctype html><body style="margin:0"><script src="/page.js"></script>');
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    '--headless',
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
  );
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  await driver.manage().setTimeouts({ script: 600_000, pageLoad: 600_000 });
  const { port } = server.address() as { port: number };
  await driver.get(`http://127.0.0.1:${port}/`);
  await driver.wait(() => driver.executeScript('return !!window.workshop'), 300_000);
  return {
    call: (call, ...args) => driver.executeScript('return window.workshop[arguments[0]](...arguments[1])', call, args),
    close: async () => {
      await driver.quit();
      server.close();
    },
  };
}

const bytes = (dataUrl: string) => Buffer.from(dataUrl.slice(dataUrl.indexOf(',') + 1), 'base64');

async function renderBackgrounds(call: Page, wanted: (name: string) => boolean) {
  for (const [name, pose] of Object.entries(poses)) {
    if (!wanted(name)) continue;
    const depth = sharp(bytes(await call('depth', pose))).extractChannel(0);
    await depth.webp({ lossless: true }).toFile(path.join(assets, `${name}_depth.webp`));
    for (const light of lights) {
      const png = await call('background', pose, light, 4);
      // Four samples a pixel of the full picture, then one of the low one: smooth edges in both.
      await sharp(bytes(png))
        .removeAlpha()
        .resize(1920, 1080)
        .webp({ quality: 88 })
        .toFile(path.join(assets, `${name}_${light}.webp`));
      console.log(name, light);
    }
  }
}

async function renderFigure(call: Page, name: FigureName) {
  const member = cast[name];
  const spriteScale = scaleOf(member);
  for (const light of lights) {
    const shots: { shot: SpriteShot; image: Buffer; left: number; top: number; width: number; height: number }[] = [];
    for (let phase = 0; phase < member.phases; phase++)
      for (let heading = 0; heading < headings; heading++) {
        const spec = {
          kind: member.kind,
          look: member.look,
          paint: 'paint' in member ? member.paint : undefined,
          plate: 'plate' in member ? member.plate : undefined,
          letters: 'letters' in member ? member.letters : undefined,
          phase: (phase / member.phases) * 2 * Math.PI,
          heading: (heading / headings) * 2 * Math.PI,
        };
        const shot = await call('sprite', spec, light, spriteScale);
        const trimmed = await sharp(bytes(shot.png))
          .trim({ background: { r: 0, g: 0, b: 0, alpha: 0 }, threshold: 1 })
          .png()
          .toBuffer({ resolveWithObject: true });
        shots.push({
          shot,
          image: trimmed.data,
          left: shot.left * spriteScale - (trimmed.info.trimOffsetLeft ?? 0),
          top: shot.top * spriteScale - (trimmed.info.trimOffsetTop ?? 0),
          width: trimmed.info.width,
          height: trimmed.info.height,
        });
      }
    const places = packInRows(shots);
    const cells: CellRecord[] = shots.map((s, i) => ({
      sheet: [...places.at[i]!, s.width, s.height],
      left: s.left,
      top: s.top,
      box: s.shot.box.map((v) => Math.round(v * 10) / 10) as unknown as CellRecord['box'],
    }));
    await sharp({ create: { width: sheetWidth, height: places.height, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } } })
      .composite(shots.map((s, i) => ({ input: s.image, left: places.at[i]![0], top: places.at[i]![1] })))
      .webp({ quality: 86, alphaQuality: 88 })
      .toFile(path.join(assets, `${name}_${light}.webp`));
    const record: SheetRecord = { headings, phases: member.phases, scale: spriteScale, cells };
    writeFileSync(path.join(assets, `${name}_${light}.json`), JSON.stringify(record));
    console.log(name, light, shots.length);
  }
}

function packInRows(items: readonly { width: number; height: number }[]) {
  let [x, y, rowHeight] = [0, 0, 0];
  const at = items.map(({ width, height }): [number, number] => {
    if (x + width > sheetWidth) [x, y, rowHeight] = [0, y + rowHeight + 2, 0];
    const place: [number, number] = [x, y];
    x += width + 2;
    rowHeight = Math.max(rowHeight, height);
    return place;
  });
  return { at, height: y + rowHeight };
}

async function main() {
  const only = process.argv.slice(2);
  const wanted = (name: string) => only.length === 0 || only.includes(name);
  mkdirSync(assets, { recursive: true });
  const page = await openPage();
  try {
    await renderBackgrounds(page.call, wanted);
    for (const name of Object.keys(cast) as FigureName[]) if (wanted(name)) await renderFigure(page.call, name);
  } finally {
    await page.close();
  }
}

void main();
