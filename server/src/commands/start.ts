// npm start: the server alone.

import { Trouble, faultLine } from '@nibber/core/problem';
import { readConfig } from '../runtime/config';
import { openPlace } from '../runtime';

async function main() {
  const config = readConfig();
  const place = await openPlace(config);
  if (place.setUpCode) console.log(`Set-up code for the owner’s account: ${place.setUpCode}`);
  const { tls, host } = config;
  console.log(`Nibber listens at ${tls ? 'https' : 'http'}://${host}:${place.port}`);
  let closing = false;
  const close = () => {
    if (closing) return;
    closing = true;
    place.close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  process.on('SIGINT', close);
  process.on('SIGTERM', close);
}

main().catch((thrown: Error & { code?: string }) => {
  if (thrown instanceof Trouble) {
    console.error(`${thrown.message} ${thrown.remedy}`);
    thrown.faults.forEach((f) => console.error(`  ${faultLine(f)}`));
  } else if (thrown.code === 'EADDRINUSE') console.error('The port is in use. Set PORT to another one.');
  else console.error(thrown);
  process.exit(1);
});
