import type { HttpInterceptorFn } from '@angular/common/http';

/** The token that the server gave this page; behind TLS its cookie says that only this very host can have set it. */
function token(): string | undefined {
  return /(?:^|;\s*)(?:__Host-)?XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1];
}

/** Sends the token back with every change, which another site cannot. */
export const antiForgeryInterceptor: HttpInterceptorFn = (request, next) => {
  const given = request.method === 'GET' ? undefined : token();
  return next(
    given === undefined
      ? request
      : request.clone({ setHeaders: { 'X-XSRF-TOKEN': decodeURIComponent(given) } }),
  );
};
