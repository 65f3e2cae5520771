// npm start: the server alone.

import { Problem, problemLine } from '@nibber/core/problem';
import { readConfig } from '../base/config';
import { catchUncaught } from '../base/failures';
import { openSite } from '../runtime';

async function main() {
  const config = readConfig();
  const place = await openSite(config);
  catchUncaught(place.failures);
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
  if (thrown instanceof Problem) {
    console.error(`${thrown.message} ${thrown.hint}`);
    thrown.problems.forEach((f) => console.error(`  ${problemLine(f)}`));
  } else if (thrown.code === 'EADDRINUSE') console.error('The port is in use. Set PORT to another one.');
  else console.error(thrown);
  process.exit(1);
});
