// The Express application: guards first, then the table of routes, then the client's files, then one place for every error.

import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type Request, type RequestHandler, type Response } from 'express';
import helmet from 'helmet';
import { Problem, type ProblemCode } from '@nibber/core/problem';
import type { Config } from '../base/config';
import type { Visitor } from '../db/access';
import { log } from '../base/log';
import { diskProblem } from '../db/disk-problem';
import { cleaned, withoutSecrets } from '../base/without-secrets';
import { tokenOf, visitorOf } from './access/cookies';
import type { Refused } from './access/watching';
import { allRoutes } from './all-routes';
import { readWith } from './body';
import { hookRoutes } from './hooks/routes';
import type { Live } from './live';
import { notifyLive } from './live/publish';
import { isFromOwnPage, isOwnHost } from './own-page';
import { may, permissions, refuseUnconfirmed } from '@nibber/core/permissions';
import { isBytes, type Route } from './route';
import type { Services } from './services';

const statusOf: { readonly [C in ProblemCode]: number } = {
  'bad-input': 400,
  'bad-site': 422,
  'bad-line': 400,
  'not-found': 404,
  'not-signed-in': 401,
  'not-allowed': 403,
  'not-confirmed': 403,
  conflict: 409,
  'too-many-tries': 429,
  'too-large': 413,
  unavailable: 503,
};

export function makeApp(services: Services & { readonly live: Live }): Express {
  notifyLive(services, services.live);
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', services.config.trustProxy);
  app.use(guard(services.config));
  app.use(compression({ filter: (request, response) => !/live|week$/.test(request.path) && compression.filter(request, response) }));
  // Before anything reads bodies: what cameras send is taken as it comes.
  app.use(hookRoutes(services));
  app.use((request, _response, next) =>
    next(isOwnHost(request.host, request.socket.localAddress, services.config) || request.path === '/health' ? undefined : notOurs()),
  );
  const open = holdOpen(services);
  app.use('/api', (_request, response, next) => {
    response.setHeader('cache-control', 'no-store');
    next();
  });
  for (const r of allRoutes(services)) app[r.method](r.path, handle(services, r, open));
  app.use(['/api', '/pictures', '/hooks'], (request, _response, next) => next(unknown(request.originalUrl)));
  serveClient(app, services);
  app.use(answerProblem(services));
  return app;
}

/** react-native-web makes one empty style element and fills it rule by rule; this is the hash of nothing. */
const emptyStyle = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/** Only our own scripts, styles, pictures; inline styles of the page by their hashes. */
function guard({ clientFolder, tls }: Config): RequestHandler {
  const index = path.join(clientFolder, 'index.html');
  const page = existsSync(index) ? readFileSync(index, 'utf8') : '';
  const hashes = [...page.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map(
    (m) => `'sha256-${createHash('sha256').update(m[1]!).digest('base64')}'`,
  );
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", emptyStyle, ...hashes],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        manifestSrc: ["'self'"],
        workerSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginResourcePolicy: { policy: 'same-site' },
    // Only where TLS ends here: a proxy that ends it says so itself.
    hsts: tls ? { maxAge: 31_536_000, includeSubDomains: false } : false,
  });
}

/** Answers that are still being given, so that they end with the right to have them: live streams above all. */
type Open = (request: Request, response: Response, r: Route) => void;
type Asked = Readonly<Record<string, string>>;

function holdOpen({ access, bus, schedule }: Services): Open {
  const open = new Map<Response, { readonly token: string; readonly r: Route; readonly params: Asked }>();
  const look = async () => {
    for (const [response, { token, r, params }] of [...open]) {
      const visitor = await access.visitor(token);
      if (!visitor || refusal(visitor, r, params)) response.destroy();
    }
  };
  const lookAgain = () => void look().catch((thrown: Error) => log.error({ error: thrown.message }, 'open responses not checked'));
  access.onEnded(lookAgain);
  bus.on('site', 'Access', ({ kind }) => kind === 'site' && lookAgain());
  // Whose last day is over is out that night.
  schedule.every('30 * * * * *', 'Access', lookAgain);
  return (request, response, r) => {
    const token = tokenOf(request);
    if (token === undefined) return;
    open.set(response, { token, r, params: { ...request.params } as Asked });
    response.on('close', () => open.delete(response));
  };
}

function handle({ access, config, clock }: Services, r: Route, open: Open): RequestHandler {
  const read = r.checkBody && readWith(express.json({ limit: r.maxBytes }));
  return async (request, response, next) => {
    try {
      const visitor = await visitorOf(access, request);
      response.locals.visitor = visitor?.name;
      if (r.may !== 'anyone' && !visitor) throw new Problem('not-signed-in', 'You are not signed in.', 'Sign in and try again.');
      if (r.method !== 'get' && !isFromOwnPage(request, config.publicUrl))
        throw new Problem(
          'not-allowed',
          'The request does not come from a page of this server.',
          'Open the app at its own address. Scripts send a bearer token.',
        );
      const refused = visitor && refusal(visitor, r, request.params as Asked);
      if (refused) throw refused;
      r.checkParams({ ...request.params });
      if (r.confirms && visitor) refuseUnconfirmed(visitor, clock.machine());
      // What changes something answers once it is done, signing out too; what goes on for long is looked at again.
      if (visitor && (r.method === 'get' || isBytes(r.answer))) open(request, response, r);
      // A copy: Express works the query out again each time it is asked for.
      const query = { ...request.query };
      r.checkQuery(query);
      if (read) {
        if (!request.is('application/json')) throw new Problem('bad-input', 'The request is not JSON.', 'Send it as application/json.');
        await read(request, response);
        r.checkBody!(request.body);
      }
      const asked = { request, response, params: request.params, query, body: request.body as unknown, visitor };
      const answer = await r.handle(asked as never);
      if (answer === undefined || response.headersSent) return;
      const wrong = config.checkAnswers ? r.wrongIn(answer) : undefined;
      if (wrong) throw new Error(`${r.method} ${r.path} does not match its response schema: ${wrong}`);
      response.json(answer);
    } catch (thrown) {
      next(thrown);
    }
  };
}

/** Why someone is refused; undefined where they are not. What they may not see is not there for them: cameras and areas that an address names. */
function refusal({ role, visible }: Visitor, r: Route, { camera, area }: Asked): Problem | undefined {
  if (r.may === 'anyone') return undefined;
  if (!may(role, r.may))
    return new Problem('not-allowed', 'You are not allowed to do this.', `Ask one of: ${permissions[r.may].join(', ')}.`);
  if (camera !== undefined && !visible.camera(camera))
    return new Problem('not-found', `Camera ${camera} not found.`, 'See the list of cameras.');
  if (area !== undefined && !visible.area(area)) return new Problem('not-found', `Area ${area} not found.`, 'Reload the page.');
  return undefined;
}

/** Who is not signed in is given the door: a page that signs in and is there at once. The application is for the others. */
function serveClient(app: Express, { config: { clientFolder: folder }, access }: Pick<Services, 'config' | 'access'>) {
  const hashed = /\.[0-9a-f]{8,}\.|-[0-9a-f]{32}\./;
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, file) =>
        response.setHeader('cache-control', hashed.test(file) ? 'public, max-age=31536000, immutable' : 'no-cache'),
    }),
  );
  app.get(/^\/(?!api\/|pictures\/|hooks\/)[^.]*$/, async (request, response, next) => {
    const index = path.join(folder, 'index.html');
    if (!existsSync(index))
      return next(new Problem('unavailable', 'The application has not been built.', 'Run npm run build, then reload.'));
    response.setHeader('cache-control', 'no-cache');
    // From its folder: where that stands on the machine, under a name with a dot even, is no matter.
    const isIn = request.path === '/join' || (await visitorOf(access, request).catch(() => undefined)) !== undefined;
    const page = !isIn && existsSync(path.join(folder, 'door.html')) ? 'door.html' : 'index.html';
    response.sendFile(page, { root: folder }, (error) => error && next(error));
  });
  app.use((request, _response, next) => next(unknown(request.path)));
}

/** One shape for every error: `{ error: { code, message, hint, problems } }`. */
const answerProblem =
  ({ watching }: Pick<Services, 'watching'>): ErrorRequestHandler =>
  (thrown: unknown, request, response, _next) => {
    const problem = thrown instanceof Problem ? thrown : (diskProblem(thrown) ?? foreign(thrown as Foreign));
    if (!problem) log.error({ path: request.path, error: String((thrown as Error)?.stack ?? thrown) }, 'unforeseen');
    const kind = problem && refusalKind(problem.code, request.path);
    if (kind)
      watching.refused({
        kind,
        from: request.ip ?? '',
        who: response.locals.visitor as string | undefined,
        path: withoutSecrets(request.path),
        code: problem.code,
      });
    const said = problem ?? new Problem('unavailable', 'Something went wrong in the server.', 'Try again. Details are in the server log.');
    if (response.headersSent || response.destroyed) return void response.destroy();
    if (said.code === 'unavailable') response.set('retry-after', String(retrySeconds));
    response
      .status(problem ? statusOf[said.code] : 500)
      .json({ error: { code: said.code, message: withoutSecrets(said.message), hint: said.hint, problems: cleaned(said.problems) } });
  };

/** What of a refusal is looked at for who tries to get in. That someone has signed out meanwhile is nothing of it. */
function refusalKind(code: ProblemCode, path: string): Refused['kind'] | undefined {
  const isDoor = /^\/api\/(session|owner|password|invited)\b/.test(path);
  if (isDoor && (code === 'not-signed-in' || code === 'not-allowed' || code === 'too-many-tries')) return 'sign-in';
  if (code === 'not-allowed') return 'permission';
  return /^\/(hooks|api\/invited)\b/.test(path) && code === 'not-found' ? 'address' : undefined;
}

/** After so long it is worth trying again what could not be done now. */
const retrySeconds = 5;

type Foreign = { readonly type?: string; readonly status?: number; readonly code?: string };
function foreign({ type, status, code }: Foreign): Problem | undefined {
  // Whoever sent it has gone away in the middle: no fault of the server's.
  if (code === 'ECONNRESET' || code === 'ERR_STREAM_PREMATURE_CLOSE' || code === 'ECONNABORTED' || type === 'request.aborted')
    return new Problem('bad-input', 'The request was cut off.', 'Send it again.');
  if (type === 'entity.parse.failed') return new Problem('bad-input', 'The request is not valid JSON.', 'Send one JSON object.');
  if (type === 'entity.too.large')
    return new Problem('too-large', 'The request is too large.', 'Send a shorter one. Limits are in docs/openapi.yaml.');
  return status !== undefined && status >= 400 && status < 500
    ? new Problem('bad-input', 'The request could not be read.', 'Check its address and its encoding.')
    : undefined;
}

const notOurs = () =>
  new Problem(
    'not-allowed',
    'The host name in the address is not allowed.',
    'Use the server’s own address, or add the name to NIBBER_HOSTS.',
  );
const unknown = (path: string) => new Problem('not-found', `${path} not found.`, 'See docs/openapi.yaml for all paths.');
