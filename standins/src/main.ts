// All stand-ins in one process, each at an address of its own. Says where they are as one JSON line on standard output.

import { createServer, type RequestListener, type Server } from 'node:http';
import express from 'express';
import type { StandinAddresses } from './addresses';
import { timeServer } from './clock/sntp';
import { describer, describerFaults, type DescriberFault } from './describer/service';
import { answerDiscovery } from './devices/discovery';
import { rtspServer } from './devices/rtsp';
import { phone } from './pocket/phone';
import { pocket } from './pocket/server';
import { mailbox, mailFaults, type MailFault } from './mailbox/server';
import { pushFaults, pushService, type PushFault } from './push/service';
import {
  broker,
  receiverSignIn,
  textFaults,
  textGateway,
  webhookFaults,
  webhookReceiver,
  type TextFault,
  type WebhookFault,
} from './receivers/server';
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
  const box = await mailbox(first ? first + 7 : 0);
  const hook = webhookReceiver();
  const texts = textGateway(receiverSignIn.key);
  const bus = await broker(first ? first + 9 : 0, receiverSignIn);
  let stageAddress = '';
  let rtspAddress = '';
  const theStage = await stage(
    {
      startTime: process.env.NIBBER_STAGE_TIME ?? '20:40',
      date: process.env.NIBBER_STAGE_DATE,
      pace: Number(process.env.NIBBER_STAGE_PACE ?? 1),
      life: process.env.NIBBER_STAGE_LIFE !== 'off',
      addresses: { http: () => stageAddress, rtsp: () => rtspAddress },
    },
    {
      'AI service': { faults: describerFaults, break: (f) => eyes.setFault(f as DescriberFault) },
      'push service': { faults: pushFaults, break: (f) => push.setFault(f as PushFault) },
      'mail server': { faults: mailFaults, break: (f) => box.setFault(f as MailFault) },
      'text gateway': { faults: textFaults, break: (f) => texts.setFault(f as TextFault) },
      webhook: { faults: webhookFaults, break: (f) => hook.setFault(f as WebhookFault) },
    },
  );
  stageAddress = await listen(theStage.app, 0);
  const rtsp = await rtspServer(first ? first + 5 : 0, new Map(theStage.devices.flatMap((d) => [...d.streams])));
  rtspAddress = `rtsp://127.0.0.1:${rtsp.port}`;
  const found = theStage.devices.map((d) => ({
    id: d.id,
    address: `${stageAddress}/devices/${d.name}/onvif/device_service`,
    name: d.settings.maker,
    hardware: d.settings.model,
    isSilent: d.isSilent,
  }));
  const discovery = await answerDiscovery(() => found.filter((d) => !d.isSilent()));
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
    mailbox: await listen(box.page, 6),
    mail: `127.0.0.1:${box.port}`,
    receivers: await listen(express().use(hook.router).use(texts.router), 8),
    broker: bus.url,
  };
  console.log(JSON.stringify(addresses));

  const close = () => {
    theStage.close();
    thePhone.close();
    clock.close();
    rtsp.close();
    discovery.close();
    void box.close();
    void bus.close();
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
