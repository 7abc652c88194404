import 'reflect-metadata';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { NestFactory } from '@nestjs/core';
import { type NestExpressApplication } from '@nestjs/platform-express';
import compression from 'compression';
import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import { Logger } from 'nestjs-pino';
import { AppModule, type Features } from './app.module';
import { isEncrypted, StartError, type Config } from './platform/config/config';
import { closeDatabase, openDatabase, type Connections } from './platform/database/data-source';
import { checkJsonShape } from './platform/http/json-shape';
import { followRequest } from './platform/http/request-context';
import { fillIndexIfEmpty } from './kernel/search/fill-index';

const WEB = join(__dirname, '..', '..', 'web', 'dist');
/** Large enough for anything but a file, and files are not sent as JSON; every route checks its own limits beneath. */
const LARGEST_BODY = '4mb';
/** The drawings of a whole meeting pack come along when it is printed. */
const WITH_DRAWINGS = { path: /^\/api\/v1\/packs\/\d+\/file$/, limit: '32mb' };

/** Addresses that are not pages of the web application. */
const OWN_PAGES = /^\/(api|f|stand-ins)\//;
/** What a web form can send at most. */
const FORM = { limit: '64kb', parameterLimit: 200, extended: false };

const policy = {
  directives: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    // The component library writes its styles at run time.
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:'],
    objectSrc: ["'none'"],
    frameAncestors: ["'none'"],
    upgradeInsecureRequests: null,
  },
};

/** Serves the built web application; any address that is no file and not the API's is a page of it. */
function serveWeb(app: NestExpressApplication): void {
  if (!existsSync(join(WEB, 'index.html'))) return;
  app.use(
    '/assets',
    express.static(join(WEB, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  const files = express.static(WEB, { index: false });
  // What is not a file of the web application is not looked for on the disk either.
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (OWN_PAGES.test(request.path)) next();
    else void files(request, response, next);
  });
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== 'GET' || OWN_PAGES.test(request.path)) next();
    else response.sendFile(join(WEB, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } });
  });
}

/** @throws StartError when they are no count and no addresses. */
function trustProxies(app: NestExpressApplication, proxies: Config['proxies']): void {
  if (proxies === undefined) return;
  try {
    app.set('trust proxy', proxies);
  } catch {
    throw new StartError(
      `ZAWN_PROXIES is “${proxies}”; it must be how many proxies stand before Zawn, or their addresses with commas between.`,
    );
  }
}

/**
 * The server around the database in the configured folder, ready to listen.
 * @param features what others than Zawn's own features bring along, run after those.
 */
export async function createServer(
  config: Config,
  features: Partial<Features> = {},
): Promise<NestExpressApplication> {
  const connections = await openDatabase(config.dataFolder, {
    durability: config.durability,
    what: `server on port ${config.port}`,
  });
  try {
    return await serverAround(config, connections, features);
  } catch (error) {
    await closeDatabase(connections);
    throw error;
  }
}

async function serverAround(
  config: Config,
  connections: Connections,
  features: Partial<Features>,
): Promise<NestExpressApplication> {
  await fillIndexIfEmpty(connections.writing);
  const app = await NestFactory.create<NestExpressApplication>(
    AppModule.with(config, connections, features),
    {
      bufferLogs: true,
      bodyParser: false,
      abortOnError: false,
      // Streams of events would keep a stopping server waiting for as long as a browser is open.
      forceCloseConnections: true,
    },
  );
  app.useLogger(app.get(Logger));
  app.use(followRequest);
  app.disable('x-powered-by');
  // Should answering a failure fail itself, nothing of that gets out either.
  app.set('env', 'production');
  // Another spelling of an address is another address, for everything that goes by addresses.
  app.set('case sensitive routing', true);
  trustProxies(app, config.proxies);
  app.use(helmet({ contentSecurityPolicy: policy, strictTransportSecurity: isEncrypted(config) }));
  // Compressing would hold back the event stream.
  app.use(
    compression({
      filter: (request, response) =>
        !request.url.endsWith('/events') && compression.filter(request, response),
    }),
  );
  // A record's answer holds more than its version says, and none of it belongs in a browser's store.
  app.use('/api', (_request: Request, response: Response, next: NextFunction) => {
    response.setHeader('Cache-Control', 'no-store');
    next();
  });
  const json = (limit: string) =>
    express.json({ limit, verify: (_request, _response, bytes) => checkJsonShape(bytes) });
  app.use(WITH_DRAWINGS.path, json(WITH_DRAWINGS.limit));
  app.use(json(LARGEST_BODY));
  // Only what a published form sends comes as a form.
  app.use('/f', express.urlencoded(FORM));
  serveWeb(app);
  app.enableShutdownHooks();
  return app;
}

/**
 * Starts listening.
 * @throws StartError when the port is taken.
 */
export async function listen(app: NestExpressApplication, port: number): Promise<void> {
  try {
    await app.listen(port, '127.0.0.1');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    throw new StartError(`Port ${port} is taken. Stop what uses it, or choose another with PORT.`);
  }
}
