import { provideHttpClient, withInterceptors, withXsrfConfiguration } from '@angular/common/http';
import { provideBrowserGlobalErrorListeners, type ApplicationConfig } from '@angular/core';
import { MAT_FORM_FIELD_DEFAULT_OPTIONS } from '@angular/material/form-field';
import { provideRouter, TitleStrategy, withComponentInputBinding } from '@angular/router';
import { companyInterceptor } from './session/company-choice';
import { loggedOutInterceptor } from './session/logged-out.interceptor';
import { routes } from './routes';
import { tokenCookie } from './session/token-cookie';
import { PageTitles } from './shell/page-titles';

/** What the application is made with. */
export const configuration: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(
      withInterceptors([companyInterceptor, loggedOutInterceptor]),
      withXsrfConfiguration({ cookieName: tokenCookie() }),
    ),
    { provide: TitleStrategy, useClass: PageTitles },
    {
      provide: MAT_FORM_FIELD_DEFAULT_OPTIONS,
      useValue: { appearance: 'outline', subscriptSizing: 'dynamic', floatLabel: 'always' },
    },
  ],
};
