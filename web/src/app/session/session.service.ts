import { inject, Injectable, signal } from '@angular/core';
import { map, switchMap, tap, type Observable } from 'rxjs';
import { endpoints, mayDo, type Permission, type PersonView } from '@coffer/contract';
import { ApiClient } from '../api/api-client';

/** Who is logged in. */
@Injectable({ providedIn: 'root' })
export class SessionService {
  private readonly api = inject(ApiClient);
  private readonly current = signal<PersonView | null>(null);
  readonly person = this.current.asReadonly();

  /** Asks the server; this also hands out the anti-forgery cookie that changes need. */
  load(): Observable<PersonView | null> {
    return this.api.call(endpoints.session).pipe(
      map(({ person }) => person),
      tap((person) => this.current.set(person)),
    );
  }

  /** Logs in; asks for the anti-forgery cookie first, which may not have come yet or be too old by now. */
  logIn(logIn: string, password: string): Observable<PersonView> {
    return this.load().pipe(
      switchMap(() => this.api.call(endpoints.logIn, { body: { logIn, password } })),
      map(({ person }) => person),
      tap((person) => this.current.set(person)),
    );
  }

  logOut(): Observable<unknown> {
    return this.api.call(endpoints.logOut).pipe(tap(() => this.current.set(null)));
  }

  /** Whether who is logged in may do something. */
  may(permission: Permission): boolean {
    const person = this.current();
    return person !== null && mayDo(person.role, permission);
  }
}
