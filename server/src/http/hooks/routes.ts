// Where paired cameras send what they saw. Accepted means kept: a delivery is on disk, its picture decoded, before it is answered.

import { createHash } from 'node:crypto';
import busboy from 'busboy';
import { raw, Router, type Request, type RequestHandler } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';
import { inTurn } from '../../base/in-turn';
import { acceptedPicture } from '../../intake/accepted';
import { understand, type Delivery } from '../../intake/delivery';
import { isJpeg } from '../../streams/multipart';
import { Problem } from '@nibber/core/problem';
import { safeWayOf } from '../../media/safe';
import type { Services } from '../services';

const maxBytes = 8_000_000;
const maxText = 262_144;
/** Of one camera: a flood of one leaves the others alone. */
const perMinute = 240;
/** Forms of one camera that are read at the same time: each holds a picture in memory. */
const formsAtOnce = 2;
/** From one address with tokens that open nothing. */
const wrongPerMinute = 30;

export function hookRoutes({
  record,
  clock,
  site,
  tokens,
  deliveries,
}: Pick<Services, 'record' | 'clock' | 'site' | 'tokens' | 'deliveries'>): Router {
  const router = Router();
  const decoding = inTurn();
  const forms = atOnce(formsAtOnce);
  const limit = rateLimit({
    windowMs: 60_000,
    limit: perMinute,
    standardHeaders: 'draft-7',
    legacyHeaders: false,
    keyGenerator: (request) => String(request.res?.locals.camera),
    handler: (_request, _response, next) =>
      next(
        new Problem(
          'too-many-tries',
          `This camera sends more than ${perMinute} events a minute.`,
          'Send it again after a minute, and set the camera to send less.',
        ),
      ),
  });
  const guesses = rateLimit({
    windowMs: 60_000,
    limit: wrongPerMinute,
    standardHeaders: false,
    legacyHeaders: false,
    keyGenerator: (request) => ipKeyGenerator(request.ip ?? ''),
    handler: (_request, _response, next) =>
      next(new Problem('too-many-tries', 'Too many requests to unknown camera addresses.', 'Wait a minute.')),
  });
  const cameraOf = async (token: string) => {
    const id = await tokens.cameraOf(token);
    return site.file.cameras.find((c) => c.id === id && c.source.kind === 'paired');
  };
  /** Only tokens that open nothing are counted by address: cameras behind one router do not pay for one another. */
  const known: RequestHandler = async (request, response, next) => {
    try {
      const camera = await cameraOf(String(request.params.token));
      if (camera) {
        response.locals.camera = camera.id;
        return next();
      }
      guesses(request, response, (thrown?: unknown) =>
        next(
          thrown ??
            new Problem('not-found', 'Unknown camera address, or it was replaced.', 'Copy the camera’s address again from its page.'),
        ),
      );
    } catch (thrown) {
      next(thrown);
    }
  };
  router.post(
    '/hooks/cameras/:token',
    known,
    limit,
    raw({ type: (r) => !isForm(r.headers['content-type']), limit: maxText }),
    async (request, response, next) => {
      try {
        const camera = response.locals.camera as string;
        const sent = isForm(request.headers['content-type'])
          ? await forms.take(camera, () => readForm(request))
          : { text: readText(request), picture: undefined };
        const delivery = understand(sent.text, camera, cloudHeaders(request));
        const answer = await keep(camera, delivery, sent.picture);
        response.status(202).json(answer);
        if (!answer.again) deliveries.wake(camera);
      } catch (thrown) {
        next(thrown);
      }
    },
  );
  return router;

  async function keep(camera: string, delivery: Delivery, jpeg: Buffer | undefined) {
    const { text, form, understood, frames, seen, saidAt } = delivery;
    const key = delivery.key ?? createHash('sha256').update(text).digest('hex');
    const of = site.file.cameras.find((c) => c.id === camera)!;
    // One after the other, so that a camera with large pictures does not take every core.
    const picture = jpeg && (await decoding.add(camera, () => acceptedPicture(jpeg, safeWayOf(of))));
    const row = {
      camera,
      key,
      at: clock.now(),
      form,
      body: text,
      understood,
      frames: [...frames],
      seen,
      saidAt: saidAt ?? null,
      isInfrared: picture?.isInfrared ?? null,
    };
    return record.media.using(async (storeFile) => record.deliveries.accept(row, picture && (await storeFile(picture.jpeg, 'jpg'))));
  }
}

/** Lets so many pieces of work of one camera go on at the same time, and refuses more. */
function atOnce(max: number) {
  const going = new Map<string, number>();
  return {
    async take<T>(camera: string, work: () => Promise<T>): Promise<T> {
      const now = going.get(camera) ?? 0;
      if (now >= max) throw new Problem('too-many-tries', `This camera is sending ${max} forms already.`, 'Send them one after the other.');
      going.set(camera, now + 1);
      try {
        return await work();
      } finally {
        const left = going.get(camera)! - 1;
        if (left > 0) going.set(camera, left);
        else going.delete(camera);
      }
    },
  };
}

const isForm = (type: string | undefined) => /^multipart\/form-data\b/i.test(type ?? '');

const tooMuchText = () => new Problem('too-large', 'The event is too long.', `Send at most ${maxText} bytes of text.`);

function readText(request: Request): string {
  const body = request.body as unknown;
  if (!Buffer.isBuffer(body) || body.length === 0)
    throw new Problem(
      'bad-input',
      'The event is empty.',
      'Send JSON (docs/camera-event.schema.json), ONVIF metadata XML, or multipart/form-data with a JPEG.',
    );
  return body.toString('utf8');
}

/** CloudEvents in binary mode carry their attributes as headers (HTTP Protocol Binding 1.0.2, 3.1). */
function cloudHeaders(request: Request): Record<string, string> | undefined {
  const found = Object.entries(request.headers).filter(([name]) => name.startsWith('ce-'));
  if (found.length === 0) return undefined;
  try {
    return Object.fromEntries(found.map(([name, value]) => [name.slice(3), decodeURIComponent(String(value))]));
  } catch {
    throw new Problem('bad-input', 'A ce- header is not percent-encoded.', 'Encode its value, or send the event as JSON.');
  }
}

/** What is read of a form: one part of text, one JPEG, in any order and under any names. Nothing more of it is held. */
function readForm(request: Request): Promise<{ text: string; picture: Buffer | undefined }> {
  return new Promise((resolve, reject) => {
    /** Refused once, at the first thing that is wrong; what still comes is let go by. */
    const refuse = (problem: Problem) => {
      if (form) request.unpipe(form);
      request.resume();
      reject(problem);
    };
    const bad = (why: string) => refuse(new Problem('bad-input', why, 'Send one part with the event and at most one with a JPEG.'));
    let form: busboy.Busboy | undefined;
    try {
      form = busboy({ headers: request.headers, limits: { fileSize: maxBytes, fieldSize: maxText, files: 4, fields: 8, parts: 12 } });
    } catch (thrown) {
      return bad((thrown as Error).message);
    }
    let text: string | undefined;
    let picture: Buffer | undefined;
    let pictures = 0;
    // What is text counts together, whatever part it stands in.
    let textLength = 0;
    const isTooMuch = (length: number) => {
      textLength += length;
      if (textLength > maxText) refuse(tooMuchText());
      return textLength > maxText;
    };
    form.on('field', (_name, value, { valueTruncated }) => {
      if (!isTooMuch(valueTruncated ? maxText + 1 : Buffer.byteLength(value))) text ??= value;
    });
    form.on('file', (_name, file, { mimeType }) => {
      const isPicture = /^image\//.test(mimeType);
      const pieces: Buffer[] = [];
      // A form that ends inside this part says so here as well as on the form itself.
      file.on('error', (error) => bad((error as Error).message));
      if (isPicture && ++pictures > 1) {
        file.resume();
        return bad('The form holds more than one picture.');
      }
      file.on('data', (d: Buffer) => {
        if (isPicture || !isTooMuch(d.length)) pieces.push(d);
      });
      file.on('limit', () => refuse(new Problem('too-large', 'The picture is too large.', `Send at most ${maxBytes} bytes.`)));
      file.on('close', () => {
        const bytes = Buffer.concat(pieces);
        if (isPicture) {
          if (!isJpeg(bytes)) return bad('The picture is not a JPEG.');
          picture = bytes;
        } else text ??= bytes.toString('utf8');
      });
    });
    form.on('error', (error) => bad((error as Error).message));
    form.on('close', () => (text === undefined ? bad('No part contains an event.') : resolve({ text, picture })));
    request.on('error', () => bad('The event was cut off.'));
    request.on('close', () => request.complete || bad('The event was cut off.'));
    request.pipe(form);
  });
}
