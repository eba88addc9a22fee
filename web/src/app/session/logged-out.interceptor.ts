import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, throwError } from 'rxjs';
import * as v from 'valibot';
import { refusalView } from '@coffer/contract';

/** Leads to the log-in when the session has ended, and back to the page afterwards; to one's own account where the company asks for a second factor first. */
export const loggedOutInterceptor: HttpInterceptorFn = (request, next) => {
  const router = inject(Router);
  return next(request).pipe(
    catchError((error: unknown) => {
      const ended =
        error instanceof HttpErrorResponse &&
        error.status === 401 &&
        !/\/(session|set-up|set-up\/code|links\/used)$/.test(request.url);
      const refused: unknown = error instanceof HttpErrorResponse ? error.error : undefined;
      const factor = v.is(refusalView, refused) && refused.error.code === 'second-factor-needed';
      if (factor && request.method === 'GET') void router.navigateByUrl('/account');
      // What was typed stays where it is: who saves is told, and goes on once logged in in another window.
      if (ended && request.method === 'GET')
        void router.navigate(['/log-in'], { queryParams: { to: router.url } });
      return throwError(() => error);
    }),
  );
};
