// npm run demo, once everything is installed and built.

import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { launch, signIns } from './launch';

const has = (program: string, argument: string) => spawnSync(program, [argument], { stdio: 'ignore' }).status === 0;

/** How far the recorded week is, in tenths. */
function sayProgress() {
  let said = -1;
  return (done: number) => {
    const tenths = Math.floor(done * 10);
    if (tenths === said) return;
    said = tenths;
    console.log(said === 0 ? 'The week before today is being made, once …' : `  ${said * 10} %`);
  };
}

async function main() {
  const port = Number(process.env.PORT ?? 8080);
  const dataFolder = path.resolve(process.env.NIBBER_DATA ?? '.data/demo');
  const missing = [
    ...(has('ffmpeg', '-version') ? [] : ['ffmpeg is not installed: moments show a picture instead of a clip (apt install ffmpeg).']),
    ...(has('chromium', '--version')
      ? []
      : ['Chromium is not installed: only the tests of the interface need it (apt install chromium chromium-driver).']),
  ];
  missing.forEach((line) => console.log(line));
  const isLoud = process.env.NIBBER_LOG !== undefined;
  const place = await launch({
    port,
    dataFolder,
    life: true,
    whole: { progress: sayProgress() },
    log: (line) => isLoud && console.error(line),
  });
  console.log(`\nNibber is ready at ${place.url}\n`);
  for (const s of signIns) console.log(`  ${s.role.padEnd(9)} ${s.name.padEnd(6)} password ${s.password}`);
  console.log(
    `\n  stage     ${place.standins.stage}   send someone, set the light and the time\n  pocket    ${place.standins.pocket}   the simulated phone of ${signIns[0]!.name}\n  mailbox   ${place.standins.mailbox}   alerts by e-mail\n  network   a camera and a recorder to be found; the stage shows their logins\n\nCtrl-C ends everything.`,
  );
  const stop = () => place.stop().then(() => process.exit(0));
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

main().catch((thrown: Error) => {
  console.error(thrown.message);
  process.exit(1);
});
