import { HttpHeaders, HttpResponse, type HttpInterceptorFn } from '@angular/common/http';
import { pathOf } from '@tally-stone/contract';
import { from, of, switchMap } from 'rxjs';
import { dropEarly, takeEarly } from './early';

/** A question that was asked early has its answer there; one that went wrong is asked again. */
export const answeredEarly: HttpInterceptorFn = (request, next) => {
  if (request.url === pathOf('command')) dropEarly();
  const early = request.method === 'GET' ? takeEarly(request.urlWithParams) : undefined;
  if (!early) return next(request);
  const { came } = early;
  return (came ? of(came) : from(early.coming)).pipe(
    switchMap((answer) =>
      answer
        ? of(
            new HttpResponse({
              body: answer.body,
              headers: new HttpHeaders(answer.headers),
              url: request.urlWithParams,
            }),
          )
        : next(request),
    ),
  );
};
