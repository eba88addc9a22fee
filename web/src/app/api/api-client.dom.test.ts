import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { endpoints } from '@coffer/contract';
import { beforeEach, describe, expect, it } from 'vitest';
import { ApiClient, ApiRefusal, newKey } from './api-client';

let client: ApiClient;
let sent: HttpTestingController;
beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  [client, sent] = [TestBed.inject(ApiClient), TestBed.inject(HttpTestingController)];
});

/** Keeps a scenario, as a page does that makes a key anew each time it is asked; what it was refused with. */
function keep(name: string): { refused: () => string } {
  let message = '';
  client
    .call(endpoints.keepScenario, { body: { name, changes: [] }, key: newKey() })
    .subscribe({ error: (error: unknown) => (message = error instanceof ApiRefusal ? error.message : '?') });
  return { refused: () => message };
}
const keyOf = (path: string): [key: string | null, lose: () => void, refuse: (code: string) => void] => {
  const call = sent.expectOne(path);
  return [
    call.request.headers.get('Idempotency-Key'),
    () => call.error(new ProgressEvent('error')),
    (code) => call.flush({ error: { code, message: 'Refused.' } }, { status: 503, statusText: 'Refused' }),
  ];
};

// A key makes a repeated call the same call. Source: draft-ietf-httpapi-idempotency-key-header, from memory.
describe('a call of which it is not known whether it was done', () => {
  it('is the same call when it is sent again, until it is answered', () => {
    const first = keep('Faster');
    const [key, lose] = keyOf('/api/scenarios');
    lose();
    expect(first.refused()).toContain(
      'it is not known whether this was done. Try again: it is not done twice.',
    );
    keep('Slower');
    const [other, , refuse] = keyOf('/api/scenarios');
    expect(other).not.toBe(key);
    refuse('not-known');
    keep('Faster');
    const [again, , refused] = keyOf('/api/scenarios');
    expect(again).toBe(key);
    refused('taken');
    // What was refused was not done: a new act is another one.
    keep('Faster');
    const [anew] = keyOf('/api/scenarios');
    expect(anew).not.toBe(key);
    keep('Slower');
    const [slower] = keyOf('/api/scenarios');
    expect(slower).toBe(other);
  });

  it('changed nothing where it only asked, and is looked at first where it has no key', () => {
    const said: string[] = [];
    const told = { error: (error: unknown) => said.push((error as ApiRefusal).message) };
    client.call(endpoints.scenarios).subscribe(told);
    keyOf('/api/scenarios')[1]();
    client
      .call(endpoints.changeScenario, {
        params: { id: '00000000-0000-4000-8000-000000000000' },
        body: { revision: 1, name: 'Faster', changes: [] },
      })
      .subscribe(told);
    keyOf('/api/scenarios/00000000-0000-4000-8000-000000000000')[1]();
    expect(said).toEqual([
      'The server does not answer. Check that Coffer is running and try again.',
      'The server does not answer, and it is not known whether this was done. Look before you try again.',
    ]);
  });
});
