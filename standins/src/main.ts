// All stand-ins in one process, each at an address of its own. Says where they are as one JSON line on standard output.

import { createServer, type RequestListener, type Server } from 'node:http';
import express from 'express';
import type { StandinAddresses } from './addresses';
import { timeServer } from './clock/sntp';
import { describer } from './describer/service';
import { phone } from './pocket/phone';
import { pocket } from './pocket/server';
import { pushService } from './push/service';
import { stage } from './stage/server';

async function main() {
  const first = Number(process.env.NIBBER_STANDINS_PORT ?? 0);
  const servers: Server[] = [];
  const listen = async (app: RequestListener, at: number) => {
    const server = createServer(app);
    servers.push(server);
    await new Promise<void>((ready, failed) => server.once('error', failed).listen(first ? first + at : 0, '127.0.0.1', ready));
    return `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  };
  let pushAddress = '';
  const push = pushService(() => pushAddress);
  const eyes = describer();
  const theStage = await stage(
    { startTime: process.env.NIBBER_STAGE_TIME ?? '20:40', life: process.env.NIBBER_STAGE_LIFE !== 'off' },
    { describer: eyes.setFault, push: push.setFault },
  );
  const stageAddress = await listen(theStage.app, 0);
  pushAddress = await listen(express().use(push.router), 2);
  const thePhone = phone(pushAddress);
  const pocketAddress = await listen(pocket(thePhone), 1);
  const describerAddress = await listen(express().use(eyes.router), 3);
  const clock = await timeServer(first ? first + 4 : 0, theStage.worldNow);
  const addresses: StandinAddresses = {
    stage: stageAddress,
    pocket: pocketAddress,
    push: pushAddress,
    describer: `${describerAddress}/v1`,
    time: `127.0.0.1:${clock.port}`,
  };
  console.log(JSON.stringify(addresses));

  const close = () => {
    theStage.close();
    thePhone.close();
    clock.close();
    servers.forEach((s) => s.closeAllConnections());
    process.exit(0);
  };
  process.on('SIGINT', close);
  process.on('SIGTERM', close);
}

main().catch((thrown: Error) => {
  console.error(thrown);
  process.exit(1);
});
