import { randomBytes, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import {
  EVENTS_PATH,
  FILE_ROUTES,
  OPENAPI_PATH,
  ROUTES,
  type Command,
  type FileRoute,
  type PageQuery,
  type Route,
} from '@tally-stone/contract';
import { listed } from '@tally-stone/core';
import compression from 'compression';
import express, {
  type ErrorRequestHandler,
  type Express,
  type Request,
  type RequestHandler,
  type Response,
} from 'express';
import helmet from 'helmet';
import { inTheirLanguage } from '../language.js';
import type { Logger } from 'pino';
import { requestLog } from './log.js';
import type { z } from 'zod';
import { batchView } from '../screens/batch.js';
import { shiftView } from '../screens/shift.js';
import { bladeLife } from '../screens/life.js';
import { aheadView } from '../screens/ahead.js';
import { schoolCosts } from '../screens/school-costs.js';
import { bench, bladeByCode, findBlades } from '../screens/blade-rows.js';
import { registerPage } from '../screens/register.js';
import { livesLeft } from '../wear/lives-left.js';
import type { CommandService } from '../commands/service.js';
import { Leases, leaseView } from '../cycle/leases.js';
import { cycleView } from '../screens/cycle.js';
import type { Database } from '../database.js';
import type { EventStream } from './stream.js';
import { rackView } from '../screens/rack.js';
import { fleetView } from '../screens/fleet.js';
import { replacementOffer, setOffer } from '../screens/set-offer.js';
import { listMowers } from '../fleet/mowers.js';
import { planOfCycle } from '../screens/plan.js';
import type { SimulatedBench } from '../instrument/bench.js';
import type { FirstStart } from '../people/first-start.js';
import { listPeople } from '../people/people.js';
import { mountPhotos } from './photos.js';
import { photoFolder } from '../photo/photos.js';
import { recordView } from '../screens/record.js';
import { seasonView } from '../screens/season.js';
import { healthView, shopView } from '../screens/shop.js';
import { calendarAddress, changeCalendarAddress } from '../shop/calendar-address.js';
import { edgesByGrass, grassOf } from '../fleet/grass.js';
import { previewLimits } from '../spec/limits.js';
import { listSpecs } from '../spec/specs.js';
import {
  addressOf,
  allowed,
  allowedTo,
  mayTell,
  fitToSend,
  mountSessions,
  sessionIn,
  signedByThem,
  whoAsks,
} from './sessions.js';
import { jsonOnly, knownHost, namesOfThisMachine, ownPages, refuseInvisible } from './edge.js';
import { openApi } from './openapi.js';
import { mountPackages } from './packages.js';
import { mountReports } from './reports.js';
import { mountWeb } from './web.js';
import { statusOf, toProblem } from './problem.js';
import { BODY_LIMIT_MB, toRefusal } from './refusals.js';
import { Refusal, wrongField } from '@tally-stone/cycle';

const YEAR_S = 365 * 86_400;

export interface AppParts {
  readonly database: Database;
  readonly commands: CommandService;
  readonly events: EventStream;
  readonly bench: SimulatedBench;
  /** Folder of the built web app; without it only the API is served. */
  readonly webRoot?: string;
  readonly overTls?: boolean;
  /** Folder of the scheduled backups. */
  readonly backups?: string;
  /** Somebody has to be signed in: whoever reaches the server is not whoever they say. */
  readonly locked?: boolean;
  /** Makes the first manager, where nobody works in the shop yet. */
  readonly first?: FirstStart;
  /** Names the server answers under; those of this machine where it is not said. */
  readonly hosts?: ReadonlySet<string>;
  /** One line a request: method, path, status, how long; nothing of what was sent or who sent it. */
  readonly log?: Logger;
  /** Where unexpected faults are reported. */
  readonly report?: (error: unknown) => void;
}

/** Only the app itself: no other origin, no inline script, styles by this response's nonce. */
const securityPolicy = (overTls: boolean): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: [
          "'self'",
          (_request, response) => `'nonce-${(response as Response).locals['nonce'] as string}'`,
        ],
        fontSrc: ["'self'"],
        imgSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    xFrameOptions: { action: 'deny' },
    // These only make sense over HTTPS.
    strictTransportSecurity: overTls ? { maxAge: YEAR_S } : false,
    crossOriginOpenerPolicy: overTls,
    originAgentCluster: overTls,
  });

type Parsed<Schema> = Schema extends z.ZodType ? z.output<Schema> : undefined;

/** Mounts one route of the contract: parse what came, answer what the handler gives. */
function mount<R extends Route>(
  app: Express,
  route: R,
  handler: (parsed: {
    params: Parsed<R['params']>;
    query: Parsed<R['query']>;
    body: Parsed<R['body']>;
    request: Request;
    response: Response;
  }) => Promise<z.input<R['answer']>>,
): void {
  app[route.method](
    route.path,
    allowed(route.who),
    async (request: Request, response: Response) => {
      refuseInvisible(request.params);
      refuseInvisible(request.query);
      refuseInvisible(request.body);
      const answer = await handler({
        params: route.params?.parse(request.params) as Parsed<R['params']>,
        query: route.query?.parse(request.query) as Parsed<R['query']>,
        body: route.body?.parse(request.body ?? {}) as Parsed<R['body']>,
        request,
        response,
      });
      // A view is kept by whoever asked, and asked for again by its ETag; what a write answers is nobody's to keep.
      const kept = route.method === 'get' ? 'private, no-cache' : 'no-store';
      response.set('Cache-Control', kept).json(answer);
    },
  );
}

/** The part of a list that was asked for; how long it is, and where its next part is, stand in the heads (RFC 8288). */
function pageOf<Each>(
  all: readonly Each[],
  { query, request, response }: { query: PageQuery; request: Request; response: Response },
): Each[] {
  const { offset, limit = all.length } = query;
  response.set('X-Total-Count', String(all.length));
  if (offset + limit < all.length)
    response.links({ next: `${request.path}?offset=${offset + limit}&limit=${limit}` });
  return all.slice(offset, offset + limit);
}

function mountApi(app: Express, parts: AppParts): void {
  const { database, commands, events } = parts;
  const leases = new Leases();
  const { models } = database;
  mount(app, ROUTES.health, () => healthView(database));
  mount(app, ROUTES.ready, async () => {
    await models.shop.findOne({ attributes: ['id'] });
    return { ready: true as const };
  });
  mount(app, ROUTES.bench, () => bench(database));
  mount(app, ROUTES.ahead, () => aheadView(database));
  mount(app, ROUTES.season, () => seasonView(database));
  mount(app, ROUTES.schoolCosts, () => schoolCosts(database));
  mount(app, ROUTES.batch, () => batchView(database));
  mount(app, ROUTES.shift, () => shiftView(database));
  mount(app, ROUTES.people, async (asked) => pageOf(await listPeople(database), asked));
  mount(app, ROUTES.mowers, async (asked) => pageOf(await listMowers(models), asked));
  mount(app, ROUTES.fleet, () => fleetView(database));
  mount(app, ROUTES.grass, ({ params }) => grassOf(database, params.id));
  mount(app, ROUTES.edgesByGrass, () => edgesByGrass(database));
  mount(app, ROUTES.rack, () => rackView(database));
  mount(app, ROUTES.offer, ({ params, query }) =>
    setOffer(database, params.id, query.with?.split(',')),
  );
  mount(app, ROUTES.replacement, ({ params }) => replacementOffer(database, params.id));
  mount(app, ROUTES.shop, () => shopView(database));
  mount(app, ROUTES.record, () => recordView(database, parts.backups));
  mount(app, ROUTES.specs, async (asked) => pageOf(await listSpecs(database), asked));
  mount(app, ROUTES.limitPreview, ({ params, body }) => previewLimits(database, params.id, body));
  mount(app, ROUTES.blades, ({ query }) => findBlades(database, query));
  mount(app, ROUTES.register, ({ query }) => registerPage(database, query));
  mount(app, ROUTES.livesLeft, async ({ query: { ids } }) => ({
    lives: [...(await livesLeft(database, ids))].map(([bladeId, left]) => ({ bladeId, ...left })),
  }));
  mount(app, ROUTES.blade, ({ params }) => bladeLife(database, params.id));
  mount(app, ROUTES.code, async ({ params }) => ({
    blade: await bladeByCode(database, params.text),
  }));
  mount(app, ROUTES.calendarAddress, () => calendarAddress(database));
  mount(app, ROUTES.changeCalendarAddress, ({ body, response }) =>
    changeCalendarAddress(database, body, sessionIn(response)?.personId),
  );
  mount(app, ROUTES.cycle, ({ params }) => cycleView(database, params.id));
  mount(app, ROUTES.plan, ({ params }) => planOfCycle(database, params.id));
  mount(app, ROUTES.lease, async ({ params: { id }, body, request, response }) => {
    const { holder, personId, takeOver, letGo } = body;
    signedByThem(response, personId);
    if (!(await models.cycle.findByPk(id)))
      throw new Refusal('notFound', $localize`There is no such cycle.`);
    if (!(await models.person.findByPk(personId)))
      throw wrongField(
        'personId',
        $localize`is not one of this shop’s people: pick who is at the bench`,
      );
    const standing = leases.holderOf(id);
    if (letGo) leases.letGo(id, holder);
    if (takeOver) {
      await commands.accept(
        {
          type: 'take-over',
          id: takeOver,
          personId,
          occurredAt: new Date().toISOString(),
          cycleId: id,
          ...(standing ? { fromPersonId: standing.personId } : {}),
        },
        addressOf(request),
      );
      leases.give(id, holder, personId);
    }
    const people = await listPeople(database);
    const lease = letGo
      ? { holder, personId, since: new Date().toISOString(), seenAtMs: 0 }
      : leases.speak(id, holder, personId);
    return leaseView(
      lease,
      holder,
      (of) => people.find((person) => person.personId === of)?.name ?? '',
    );
  });
  const instruments = async () => ({ instruments: await parts.bench.instruments() });
  mount(app, ROUTES.instruments, instruments);
  mount(app, ROUTES.instrument, async ({ params, body }) => {
    await parts.bench.act(params.key, body);
    return instruments();
  });
  mount(app, ROUTES.gaugeLines, ({ params, body }) => {
    parts.bench.heard(params.key, body.lines);
    return instruments();
  });
  mount(app, ROUTES.command, async ({ body, request, response }) => {
    const command = body as Command;
    signedByThem(response, command.personId);
    mayTell(response, command.type);
    // Another's PIN is a manager's to set.
    if (command.type === 'set-pin' && command.ofPersonId !== command.personId)
      allowedTo(response, 'manager');
    if (command.type === 'set-pin') fitToSend(request, command.pin);
    const answer = await commands.accept(command, addressOf(request));
    const { cycleId } = answer;
    return cycleId === undefined ? answer : { ...answer, view: await cycleView(database, cycleId) };
  });
  mountSessions(app, { database, commands, locked: parts.locked ?? false, first: parts.first });
  mountPackages(app, database);
  mountReports(app, database);
  mountPhotos(app, photoFolder(database.connection.file), database);
  app.get(EVENTS_PATH, allowed(FILE_ROUTES.events.who), (request, response) =>
    events.serve(request, response),
  );
  app.get(OPENAPI_PATH, (_request, response) => {
    response.json(openApi());
  });
  const every: readonly (Route | FileRoute)[] = [
    ...Object.values(ROUTES),
    ...Object.values(FILE_ROUTES),
  ];
  for (const path of new Set(every.map((route) => route.path))) {
    app.all(path, (_request, response) => {
      const methods = every
        .filter((route) => route.path === path)
        .map(({ method }) => method.toUpperCase());
      response.set('Allow', methods.join(', '));
      throw new Refusal('wrongMethod', $localize`This address takes ${listed(methods)} only.`);
    });
  }
  app.use('/api', () => {
    throw new Refusal('notFound', $localize`The API has no such address.`);
  });
}

const problems =
  (report: (error: unknown) => void): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const known = toRefusal(error);
    if (!known) report(error);
    const refusal =
      known ??
      new Refusal(
        'fault',
        $localize`The server met a fault it did not expect. Nothing was stored; try again.`,
      );
    response
      .status(statusOf(refusal))
      .type('application/problem+json')
      .send(
        JSON.stringify(
          toProblem(refusal, request.originalUrl, response.locals['requestId'] as string),
        ),
      );
  };

/** The whole HTTP side, readable from top to bottom. */
export function createApp(parts: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_request, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64');
    response.locals['requestId'] = randomUUID();
    response.set('X-Request-Id', response.locals['requestId'] as string);
    next();
  });
  if (parts.log) app.use(requestLog(parts.log));
  app.use(securityPolicy(parts.overTls ?? false));
  app.use(
    compression({
      filter: (request, response) =>
        !request.path.startsWith(EVENTS_PATH) && compression.filter(request, response),
    }),
  );
  app.use(inTheirLanguage);
  app.use(knownHost(parts.hosts ?? namesOfThisMachine()));
  app.use(ownPages);
  app.use('/api', jsonOnly);
  app.use('/api', whoAsks(parts.database, parts.locked ?? false));
  app.use(express.json({ limit: `${BODY_LIMIT_MB}mb` }));
  mountApi(app, parts);
  if (parts.webRoot && existsSync(join(parts.webRoot, 'index.html'))) mountWeb(app, parts.webRoot);
  app.use(problems(parts.report ?? (() => undefined)));
  return app;
}
