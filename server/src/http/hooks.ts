// Where paired cameras send what they saw. Accepted means kept: a delivery is on disk before it is answered.

import { createHash, randomUUID } from 'node:crypto';
import busboy from 'busboy';
import { raw, Router, type Request, type RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { understand, type Delivery } from '../intake/delivery';
import { isJpeg } from '../intake/multipart';
import { Trouble } from '@nibber/core/trouble';
import type { Parts } from './parts';

const mostBytes = 8_000_000;
const mostText = 1_000_000;
/** Of one camera: a flood of one leaves the others alone. */
const perMinute = 240;

export function hookRoutes(parts: Parts): Router {
  const { record, clock, site, tokens } = parts;
  const router = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: perMinute,
    standardHeaders: 'draft-7',
    legacyHeaders: false,
    keyGenerator: (request) => String(request.params.token),
    handler: (_request, _response, next) =>
      next(
        new Trouble(
          'too-many-tries',
          `This camera sends more than ${perMinute} events a minute.`,
          'Send it again after a minute; set the camera to send less.',
        ),
      ),
  });
  const known: RequestHandler = async (request, response, next) => {
    try {
      const camera = await tokens.cameraOf(String(request.params.token));
      if (!camera || !site.file.cameras.some((c) => c.id === camera))
        throw new Trouble(
          'not-found',
          'This address belongs to no camera, or has been replaced.',
          'Copy the camera’s address again from its page.',
        );
      response.locals.camera = camera;
      next();
    } catch (thrown) {
      next(thrown);
    }
  };
  router.post(
    '/hooks/cameras/:token',
    limit,
    known,
    raw({ type: (r) => !isForm(r.headers['content-type']), limit: mostBytes }),
    async (request, response, next) => {
      try {
        const camera = response.locals.camera as string;
        const sent = isForm(request.headers['content-type']) ? await readForm(request) : { text: readText(request), picture: undefined };
        const delivery = understand(sent.text, camera, cloudHeaders(request));
        const answer = await keep(camera, delivery, sent.picture);
        response.status(202).json(answer);
        if (!answer.again) parts.deliveries.wake();
      } catch (thrown) {
        next(thrown);
      }
    },
  );
  return router;

  async function keep(camera: string, delivery: Delivery, jpeg: Buffer | undefined) {
    const { text, form, understood } = delivery;
    const key = delivery.key ?? createHash('sha256').update(text).digest('hex');
    const picture = jpeg ? await parts.deliveries.keepPicture(camera, jpeg) : null;
    return record.write(async (transaction) => {
      const before = await record.tables.deliveries.findOne({ where: { camera, key }, transaction });
      if (before) return { id: before.id, again: true };
      const id = randomUUID();
      await record.tables.deliveries.create(
        { id, camera, key, at: clock.now(), form, body: text, picture, understood, state: 'due' },
        { transaction },
      );
      return { id, again: false };
    });
  }
}

const isForm = (type: string | undefined) => /^multipart\/form-data\b/i.test(type ?? '');

function readText(request: Request): string {
  const body = request.body as unknown;
  if (!Buffer.isBuffer(body) || body.length === 0)
    throw new Trouble(
      'bad-input',
      'The event is empty.',
      'Send JSON (docs/camera-event.schema.json), ONVIF metadata XML, or multipart/form-data with a JPEG.',
    );
  if (body.length > mostText) throw new Trouble('too-large', 'The event is too long.', `Send at most ${mostText} bytes of text.`);
  return body.toString('utf8');
}

/** CloudEvents in binary mode carry their attributes as headers (HTTP Protocol Binding 1.0.2, 3.1). */
function cloudHeaders(request: Request): Record<string, string> | undefined {
  const found = Object.entries(request.headers).filter(([name]) => name.startsWith('ce-'));
  return found.length ? Object.fromEntries(found.map(([name, value]) => [name.slice(3), decodeURIComponent(String(value))])) : undefined;
}

/** One part of text, one JPEG, in any order and under any names. */
function readForm(request: Request): Promise<{ text: string; picture: Buffer | undefined }> {
  return new Promise((resolve, reject) => {
    const bad = (why: string) => reject(new Trouble('bad-input', why, 'Send one part with the event and at most one with a JPEG.'));
    let form: busboy.Busboy;
    try {
      form = busboy({ headers: request.headers, limits: { fileSize: mostBytes, fieldSize: mostText, files: 4, fields: 8, parts: 12 } });
    } catch (thrown) {
      return bad((thrown as Error).message);
    }
    let text: string | undefined;
    let picture: Buffer | undefined;
    form.on('field', (_name, value) => (text ??= value));
    form.on('file', (_name, file, { mimeType }) => {
      const pieces: Buffer[] = [];
      file.on('data', (d: Buffer) => pieces.push(d));
      file.on('limit', () => reject(new Trouble('too-large', 'The picture is too large.', `Send at most ${mostBytes} bytes.`)));
      file.on('close', () => {
        const bytes = Buffer.concat(pieces);
        if (/^image\//.test(mimeType)) {
          if (!isJpeg(bytes)) return bad('The picture is not a JPEG.');
          picture ??= bytes;
        } else text ??= bytes.toString('utf8');
      });
    });
    form.on('error', (error) => bad((error as Error).message));
    form.on('close', () => (text === undefined ? bad('No part has an event in it.') : resolve({ text, picture })));
    request.on('aborted', () => bad('The event broke off.'));
    request.pipe(form);
  });
}
