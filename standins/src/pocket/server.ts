// The address of the simulated phone: its page, what it shows, and how it is registered.

import express, { type Express } from 'express';
import { servePage } from '../pages/serve';
import type { Phone } from './phone';

export function pocket(phone: Phone): Express {
  const app = express();
  let owner = '';
  app.use(express.json());
  const state = () => ({ notifications: phone.notifications(), messages: phone.messages(), owner });
  app.get('/state', (_request, response) => void response.json(state()));
  app.get('/notifications', (_request, response) => {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    const say = () => response.write(`data: ${JSON.stringify(state())}\n\n`);
    say();
    response.on('close', phone.onChange(say));
  });
  app.delete('/notifications', (_request, response) => {
    phone.clear();
    response.json({ ok: true });
  });
  app.post('/sign-up', async (request, response) => {
    const { server, name, password } = request.body as { server: string; name: string; password: string };
    try {
      await phone.signUp(server, name, password);
      owner = name;
      response.json({ ok: true });
    } catch (thrown) {
      response.status(502).json({ error: (thrown as Error).message });
    }
  });
  servePage(app, 'pocket');
  return app;
}
