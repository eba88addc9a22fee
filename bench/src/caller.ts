import { randomUUID } from 'node:crypto';

/** Somebody logged in. */
export class Caller {
  private readonly cookies = new Map<string, string>();

  constructor(private readonly address: string) {}

  async call(method: string, path: string, body?: object): Promise<{ status: number; text: string }> {
    const response = await fetch(this.address + path, {
      method,
      headers: {
        'content-type': 'application/json',
        'idempotency-key': randomUUID(),
        'x-xsrf-token': [...this.cookies].find(([name]) => name.startsWith('XSRF-TOKEN'))?.[1] ?? '',
        cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
      },
      ...(body && { body: JSON.stringify(body) }),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      this.cookies.set(name, value);
    }
    return { status: response.status, text: await response.text() };
  }

  /** A call that has to succeed; whatever is asked about first is confirmed. */
  async sure(method: string, path: string, body?: object): Promise<string> {
    const first = await this.call(method, path, body);
    if (first.status === 200) return first.text;
    const { error } = JSON.parse(first.text) as { error?: { confirm?: { code: string }[] } };
    const confirm = error?.confirm?.map(({ code }) => code);
    const { status, text } = confirm ? await this.call(method, path, { ...body, confirm }) : first;
    if (status !== 200) throw new Error(`${method} ${path}: ${text.slice(0, 300)}`);
    return text;
  }

  static async loggedIn(address: string, logIn: string, password: string): Promise<Caller> {
    const caller = new Caller(address);
    await caller.call('GET', '/api/session');
    await caller.sure('POST', '/api/session', { logIn, password });
    return caller;
  }
}
