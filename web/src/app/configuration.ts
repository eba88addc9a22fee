import { provideHttpClient, withInterceptors, withXsrfConfiguration } from '@angular/common/http';
import { provideBrowserGlobalErrorListeners, type ApplicationConfig } from '@angular/core';
import { MAT_FORM_FIELD_DEFAULT_OPTIONS } from '@angular/material/form-field';
import { provideRouter, TitleStrategy, withComponentInputBinding } from '@angular/router';
import { companyInterceptor } from './session/company-choice';
import { loggedOutInterceptor } from './session/logged-out.interceptor';
import { routes } from './routes';
import { PageTitles } from './shell/page-titles';

/** What the application is made with. */
export const configuration: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(
      withInterceptors([companyInterceptor, loggedOutInterceptor]),
      // Behind TLS the cookie says that only this very host can have set it.
      withXsrfConfiguration({
        cookieName: location.protocol === 'https:' ? '__Host-XSRF-TOKEN' : 'XSRF-TOKEN',
      }),
    ),
    { provide: TitleStrategy, useClass: PageTitles },
    {
      provide: MAT_FORM_FIELD_DEFAULT_OPTIONS,
      useValue: { appearance: 'outline', subscriptSizing: 'dynamic', floatLabel: 'always' },
    },
  ],
};
