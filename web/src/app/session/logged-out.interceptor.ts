import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, throwError } from 'rxjs';

/** Leads to the log-in when the session has ended, and back to the page afterwards. */
export const loggedOutInterceptor: HttpInterceptorFn = (request, next) => {
  const router = inject(Router);
  return next(request).pipe(
    catchError((error: unknown) => {
      const ended =
        error instanceof HttpErrorResponse && error.status === 401 && !request.url.endsWith('/session');
      if (ended) void router.navigate(['/log-in'], { queryParams: { to: router.url } });
      return throwError(() => error);
    }),
  );
};
