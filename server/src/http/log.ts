import type { IncomingMessage, ServerResponse } from 'node:http';
import type { RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

/** Words that were looked for, and codes of links, are nobody's business. */
const pathOf = ({ url = '' }: { url?: string }): string => url.split('?')[0] ?? '';

/** One line a request in the server's log, found again by the id that a problem shows. */
export const requestLog = (logger: Logger): RequestHandler =>
  pinoHttp({
    logger,
    genReqId: (_request: IncomingMessage, response: ServerResponse) =>
      (response as Response).locals['requestId'] as string,
    customLogLevel: (_request, { statusCode }, error) =>
      error || statusCode >= 500 ? 'error' : statusCode >= 400 ? 'info' : 'debug',
    serializers: {
      req: (request: { id: unknown; method: string; url: string }) => ({
        id: request.id,
        method: request.method,
        path: pathOf(request),
      }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  }) as RequestHandler;
