import { computed, inject, Injectable, signal } from '@angular/core';
import { map, switchMap, tap, type Observable } from 'rxjs';
import {
  endpoints,
  type Permission,
  preparing,
  proposing,
  reviewing,
  administering,
  type MembershipView,
  type PersonView,
  type VisitView,
} from '@coffer/contract';
import { ApiClient } from '../api/api-client';
import { CompanyChoice } from './company-choice';

/** What is sent to log in. */
export interface Credentials {
  readonly logIn: string;
  readonly password: string;
  readonly code?: string;
}

/** Who is logged in, and for which of their companies this window works. */
@Injectable({ providedIn: 'root' })
export class SessionService {
  private readonly api = inject(ApiClient);
  private readonly choice = inject(CompanyChoice);
  private readonly current = signal<PersonView | null>(null);
  readonly person = this.current.asReadonly();
  readonly companies = computed<readonly MembershipView[]>(() => this.current()?.companies ?? []);
  /** The company that this window works for. */
  readonly company = computed(() => this.companies().find(({ id }) => id === this.choice.chosen()));
  readonly mayPrepare = computed(() => this.may(preparing));
  readonly mayPropose = computed(() => this.may(proposing));
  readonly mayReview = computed(() => this.may(reviewing));
  readonly mayAdminister = computed(() => this.may(administering));

  /** Asks the server; this also hands out the anti-forgery cookie that changes need. */
  load(): Observable<VisitView> {
    return this.api.call(endpoints.session).pipe(tap(({ person }) => this.enter(person)));
  }

  /**
   * Logs in; asks for the anti-forgery cookie first, which may not have come yet or be too old by now. Gives how many
   * wrong codes of the second factor were typed since the last log-in.
   */
  logIn(typed: Credentials): Observable<number> {
    return this.load().pipe(
      switchMap(() => this.api.call(endpoints.logIn, { body: typed })),
      tap(({ person }) => this.enter(person)),
      map(({ wrongCodes }) => wrongCodes),
    );
  }

  /** Takes over who the server says has entered, as by a link or with a company that was made. */
  enter(person: PersonView | null): void {
    this.current.set(person);
    if (person) this.choice.among(person.companies.map(({ id }) => id));
  }

  /** Works for another company from here on. The page is begun anew, so that nothing of the one before stays. */
  work(companyId: number): void {
    this.choice.choose(companyId);
    location.assign('/');
  }

  logOut(): Observable<unknown> {
    return this.api.call(endpoints.logOut).pipe(tap(() => this.current.set(null)));
  }

  /** Whether who is logged in has one of some permissions in the company. */
  may(permissions: readonly Permission[]): boolean {
    return permissions.some((each) => this.company()?.role.includes(each) ?? false);
  }
}
