import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { catchError, map, retry, switchMap, tap, throwError, timer, type Observable } from 'rxjs';
import * as v from 'valibot';
import { addressOf, refusalView, type Endpoint, type Question, type RefusalView } from '@coffer/contract';
import { ConfirmDialog } from './confirm.dialog';
import { nameOfFile, saveFile } from './save-file';

/** A call that the server refused, or that did not reach it. */
export class ApiRefusal extends Error {
  constructor(
    readonly status: number,
    readonly refusal: RefusalView['error'],
  ) {
    super(refusal.message);
  }

  /** The message for a field, if the refusal names it. */
  faultOf(key: string): string | undefined {
    return this.refusal.faults?.find((fault) => fault.key === key)?.message;
  }
}

/** What goes with a call. */
export interface CallParts<E extends Endpoint> {
  readonly params?: v.InferInput<E['params']>;
  readonly query?: v.InferInput<E['query']>;
  readonly body?: v.InferInput<E['body']>;
  /** For endpoints that must not act twice; made by {@link newKey} once for each action. */
  readonly key?: string;
}

/** A fresh key for an action. */
export function newKey(): string {
  return crypto.randomUUID();
}

/**
 * Calls the server by the contract: addresses and shapes from the endpoint, the answer checked against it. What the
 * server asks about first is put to whoever called, and the call repeated once it is confirmed.
 */
@Injectable({ providedIn: 'root' })
export class ApiClient {
  private readonly http = inject(HttpClient);
  private readonly dialog = inject(MatDialog);
  /** The keys of calls of which it is not known whether they were done: the same, sent again, is the same call. */
  private readonly unanswered = new Map<string, string>();

  call<E extends Endpoint>(endpoint: E, parts: CallParts<E> = {}): Observable<v.InferOutput<E['answer']>> {
    const address = addressOf(
      endpoint.path,
      parts.params as Record<string, string> | undefined,
      parts.query as Record<string, string | undefined> | undefined,
    );
    const kept = parts.key !== undefined && !(parts.body instanceof Uint8Array);
    const same = kept ? `${endpoint.method} ${address} ${JSON.stringify(parts.body)}` : '';
    const key = this.unanswered.get(same) ?? parts.key;
    return this.http
      .request(endpoint.method, address, {
        body: sentBody(parts.body ?? (endpoint.method === 'get' ? undefined : {})),
        headers: {
          ...(key !== undefined && { 'Idempotency-Key': key }),
          ...(parts.body instanceof Uint8Array && { 'Content-Type': 'application/octet-stream' }),
        },
      })
      .pipe(
        retry({ count: mostAsked, delay: whileUnderWay }),
        tap({
          next: () => this.unanswered.delete(same),
          error: (error: unknown) => {
            if (key === undefined || !kept) return;
            if (isUnknown(error)) this.unanswered.set(same, key);
            else this.unanswered.delete(same);
          },
        }),
        map((answer) => v.parse(endpoint.answer, answer) as v.InferOutput<E['answer']>),
        catchError((error: unknown) => {
          const refusal = refusalOf(error, mayHaveDone(endpoint, kept));
          const questions = refusal instanceof ApiRefusal ? refusal.refusal.confirm : undefined;
          return questions ? this.asked(endpoint, parts, questions, refusal) : throwError(() => refusal);
        }),
      );
  }

  /** Calls what answers with a file, and keeps that. */
  file<E extends Endpoint>(endpoint: E, body: v.InferInput<E['body']>): Observable<void> {
    return this.http
      .request(endpoint.method, endpoint.path, { body, responseType: 'arraybuffer', observe: 'response' })
      .pipe(
        map(({ headers, body: bytes }) => {
          const type = headers.get('Content-Type') ?? '';
          saveFile(nameOfFile(headers.get('Content-Disposition') ?? ''), new Blob([bytes ?? ''], { type }));
        }),
        catchError((error: unknown) => throwError(() => refusalOf(error, 'nothing'))),
      );
  }

  private asked<E extends Endpoint>(
    endpoint: E,
    parts: CallParts<E>,
    questions: readonly Question[],
    refusal: unknown,
  ): Observable<v.InferOutput<E['answer']>> {
    const before = (parts.body ?? {}) as { readonly confirm?: readonly string[] };
    const confirm = [...(before.confirm ?? []), ...questions.map(({ code }) => code)];
    const body = { ...before, confirm: [...new Set(confirm)] } as v.InferInput<E['body']>;
    return this.dialog
      .open<ConfirmDialog, readonly Question[], true>(ConfirmDialog, { data: questions, width: '520px' })
      .afterClosed()
      .pipe(
        switchMap((yes) =>
          yes === true ? this.call(endpoint, { ...parts, body }) : throwError(() => refusal),
        ),
      );
  }
}

/** How often, and after how many milliseconds, a call that is under way is asked about again. */
const mostAsked = 120;
const askedAgain = 1000;

/** Waits for the same call, which went out before and is not done twice, to answer. */
function whileUnderWay(error: unknown): Observable<unknown> {
  const refusal = refusalOf(error, 'nothing');
  const underWay = refusal instanceof ApiRefusal && refusal.refusal.code === 'in-progress';
  return underWay ? timer(askedAgain) : throwError(() => error);
}

/** A body as it is sent: bytes as they are, everything else as JSON. */
function sentBody(body: unknown): unknown {
  return body instanceof Uint8Array
    ? body.buffer.slice(body.byteOffset, body.byteOffset + body.byteLength)
    : body;
}

/** What a refusal says, also where a file was asked for. */
function saidIn(said: unknown): unknown {
  if (!(said instanceof ArrayBuffer)) return said;
  try {
    return JSON.parse(new TextDecoder().decode(said));
  } catch {
    return undefined;
  }
}

/** Whether it is not known of a call that failed whether it was done: nobody answered, or the server does not know either. */
function isUnknown(error: unknown): boolean {
  if (!(error instanceof HttpErrorResponse)) return false;
  const read = v.safeParse(refusalView, saidIn(error.error));
  return !read.success || read.output.error.code === 'not-known';
}

/** What a call that nobody answered may have done: nothing, or something that is done once however often it is sent, or not. */
type MayHaveDone = 'nothing' | 'again' | 'once';

const mayHaveDone = ({ changes }: Endpoint, keyed: boolean): MayHaveDone =>
  changes ? (keyed ? 'again' : 'once') : 'nothing';

const unanswered: Readonly<Record<MayHaveDone, string>> = {
  nothing: 'The server does not answer. Check that Coffer is running and try again.',
  again:
    'The server does not answer, and it is not known whether this was done. Try again: it is not done twice.',
  once: 'The server does not answer, and it is not known whether this was done. Look before you try again.',
};

/** @param done what it may have done where nobody answered */
function refusalOf(error: unknown, done: MayHaveDone): unknown {
  if (!(error instanceof HttpErrorResponse)) return error;
  const read = v.safeParse(refusalView, saidIn(error.error));
  if (read.success) return new ApiRefusal(error.status, read.output.error);
  return new ApiRefusal(error.status, {
    code: 'unreachable',
    message: unanswered[done],
  });
}
