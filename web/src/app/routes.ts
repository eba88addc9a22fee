import { inject } from '@angular/core';
import { Router, type CanActivateFn, type Routes } from '@angular/router';
import { map } from 'rxjs';
import { SessionService } from './session/session.service';

const loggedIn: CanActivateFn = (_route, state) => {
  const router = inject(Router);
  const logIn = router.createUrlTree(['/log-in'], {
    queryParams: state.url === '/' ? {} : { to: state.url },
  });
  return inject(SessionService)
    .load()
    .pipe(
      map(({ person, installation }) => {
        if (person !== null) return true;
        return installation === 'empty' ? router.parseUrl('/set-up') : logIn;
      }),
    );
};

/** Places that belong to who administers the company. */
const administers: CanActivateFn = () =>
  inject(SessionService).mayAdminister() || inject(Router).parseUrl('/');

/** The places of the application. */
export const routes: Routes = [
  {
    path: 'log-in',
    title: 'Log in',
    loadComponent: async () => (await import('./session/log-in.page')).LogInPage,
  },
  {
    path: 'set-up',
    title: 'Set up',
    loadComponent: async () => (await import('./set-up/set-up.page')).SetUpPage,
  },
  {
    path: 'link',
    title: 'Invitation',
    loadComponent: async () => (await import('./people/link.page')).LinkPage,
  },
  {
    path: 'account',
    title: 'Own account',
    canActivate: [loggedIn],
    loadComponent: async () => (await import('./account/account.page')).AccountPage,
  },
  {
    path: 'companies/new',
    title: 'Another company',
    canActivate: [loggedIn],
    loadComponent: async () => (await import('./set-up/another-company.page')).AnotherCompanyPage,
  },
  {
    path: '',
    canActivate: [loggedIn],
    loadComponent: async () => (await import('./shell/shell')).Shell,
    children: [
      {
        path: '',
        pathMatch: 'full',
        title: 'Register',
        loadComponent: async () => (await import('./register/register.page')).RegisterPage,
      },
      {
        path: 'instruments/new',
        title: 'New instrument',
        loadComponent: async () => (await import('./terms/terms.page')).TermsPage,
      },
      {
        path: 'instruments/many',
        title: 'Take on many',
        loadComponent: async () => (await import('./take-on/take-on.page')).TakeOnPage,
      },
      {
        path: 'instruments/:id/edit',
        title: 'Change terms',
        loadComponent: async () => (await import('./terms/terms.page')).TermsPage,
      },
      { path: 'instruments/:id', pathMatch: 'full', redirectTo: 'instruments/:id/schedule' },
      {
        path: 'instruments/:id/:tab',
        title: 'Instrument',
        loadComponent: async () => (await import('./instrument/instrument.page')).InstrumentPage,
      },
      {
        path: 'funds/:id',
        title: 'Fund',
        loadComponent: async () => (await import('./fund/fund.page')).FundPage,
      },
      {
        path: 'payments',
        title: 'Payments',
        loadComponent: async () => (await import('./payments/payments.page')).PaymentsPage,
      },
      {
        path: 'portfolio',
        title: 'Portfolio over time',
        loadComponent: async () => (await import('./portfolio/portfolio.page')).PortfolioPage,
      },
      {
        path: 'portfolio/side-by-side',
        title: 'Side by side',
        loadComponent: async () => (await import('./scenarios/side-by-side.page')).SideBySidePage,
      },
      {
        path: 'plan',
        title: 'Paydown plan',
        loadComponent: async () => (await import('./plan/plan.page')).PlanPage,
      },
      {
        path: 'trail',
        title: 'Audit trail',
        loadComponent: async () => (await import('./trail/trail.page')).TrailPage,
      },
      {
        path: 'catch-ups',
        title: 'Catch-ups',
        loadComponent: async () => (await import('./corrections/catch-ups.page')).CatchUpsPage,
      },
      {
        path: 'close',
        title: 'Period close',
        loadComponent: async () => (await import('./close/close.page')).ClosePage,
      },
      {
        path: 'journal',
        title: 'Journal',
        loadComponent: async () => (await import('./journal/journal.page')).JournalPage,
      },
      {
        path: 'accounts',
        title: 'Accounts',
        loadComponent: async () => (await import('./accounts/chart.page')).ChartPage,
      },
      {
        path: 'rates',
        title: 'Reference rates',
        loadComponent: async () => (await import('./rates/rates.page')).RatesPage,
      },
      {
        path: 'settings',
        title: 'Settings',
        loadComponent: async () => (await import('./settings/settings.page')).SettingsPage,
      },
      {
        path: 'people',
        title: 'People',
        canActivate: [administers],
        loadComponent: async () => (await import('./people/people.page')).PeoplePage,
      },
      {
        path: '**',
        title: 'Not here',
        loadComponent: async () => (await import('./shell/not-here.page')).NotHerePage,
      },
    ],
  },
];
