// The page of a stand-in at `/`, its script and the look they share.

import path from 'node:path';
import type { Express } from 'express';

export function servePage(app: Express, name: 'stage' | 'pocket' | 'mailbox'): void {
  app.get('/', (_request, response) => response.sendFile(path.join(__dirname, `${name}.html`)));
  for (const file of [`${name}.js`, 'look.css']) app.get(`/${file}`, (_request, response) => response.sendFile(path.join(__dirname, file)));
}
