import { expect, logIn, test } from '../coffer.ts';

/** Somebody else's site, which the test answers for and counts the calls of. */
const other = 'http://elsewhere.test';

// The policies of the answers, tried in the browser that keeps them: Content Security Policy Level 3, 6.1 to 6.3; ASVS 5.0, 3.4.3 and 3.4.6.
test.describe('whoever gets something into a page', () => {
  test.use({ provoked: /Content Security Policy|CORS policy|net::ERR_|status of 4/ });

  test('has nothing of it run, nothing fetched for it and nothing sent elsewhere', async ({ page }) => {
    let called = 0;
    await page.route(`${other}/**`, (route) => {
      called += 1;
      return route.fulfill({ body: 'window.ran = "from elsewhere"', contentType: 'text/javascript' });
    });
    await logIn(page);
    const found = await page.evaluate(async (from) => {
      const refused: string[] = [];
      document.addEventListener('securitypolicyviolation', ({ effectiveDirective }) =>
        refused.push(effectiveDirective),
      );
      const put = (name: string, more: Record<string, string>, text = ''): HTMLElement => {
        const element = document.createElement(name);
        for (const [key, value] of Object.entries(more)) element.setAttribute(key, value);
        element.textContent = text;
        document.body.append(element);
        return element;
      };
      put('script', {}, 'window.ran = "in the page"');
      put('script', { src: `${from}/a.js` });
      put('img', { src: 'data:image/png;base64,', onerror: 'window.ran = "by an attribute"' });
      put('img', { src: `${from}/a.png` });
      put('iframe', { src: `${from}/a.html` });
      put('object', { data: `${from}/a.swf` });
      put('link', { rel: 'stylesheet', href: `${from}/a.css` });
      put('style', {}, 'body { display: none }');
      put('base', { href: `${from}/` });
      const form = put('form', { action: `${from}/a`, method: 'post', target: '_blank' });
      (form as HTMLFormElement).submit();
      const failed: string[] = [];
      await fetch(`${from}/a.json`).catch(() => failed.push('fetch'));
      // By itself, later: what is evaluated from outside, the browser lets do everything.
      await new Promise<void>((resolve) => {
        setTimeout(() => {
          try {
            (0, eval)('window.ran = "evaluated"');
          } catch {
            failed.push('eval');
          }
          resolve();
        }, 50);
      });
      try {
        new Worker(`${from}/a.js`);
      } catch {
        failed.push('worker');
      }
      await new Promise((resolve) => setTimeout(resolve, 500));
      const { ran } = window as unknown as { ran?: string };
      const hidden = getComputedStyle(document.body).display === 'none';
      return { ran, failed, hidden, base: document.baseURI, refused: [...new Set(refused)].sort() };
    }, other);
    expect(found).toMatchObject({ ran: undefined, failed: ['fetch', 'eval', 'worker'], hidden: false });
    expect(found.base).not.toContain('elsewhere');
    expect(found.refused).toEqual([
      ...['connect-src', 'form-action', 'frame-src', 'img-src', 'object-src', 'script-src'],
      ...['script-src-attr', 'script-src-elem', 'style-src-elem'],
    ]);
    expect(called).toBe(0);
  });

  test('frames no page and no paper of it, from elsewhere or from here', async ({ page, baseURL }) => {
    await logIn(page);
    const paper = await page.evaluate(async () => {
      const { rows } = (await (await fetch('/api/register?on=2026-10-31')).json()) as {
        rows: { id: string }[];
      };
      return `/api/instruments/${rows[0]?.id ?? ''}/papers`;
    });
    const framed = ['/', '/api/session', paper].map(
      (path) => `<iframe src="${baseURL ?? ''}${path}"></iframe>`,
    );
    await page.route(`${other}/**`, (route) =>
      route.fulfill({ body: `<!doctype html>${framed.join('')}`, contentType: 'text/html' }),
    );
    await page.goto(`${other}/frames`);
    await expect(page.locator('iframe')).toHaveCount(3);
    await page.waitForLoadState('networkidle');
    for (const frame of page.frames().slice(1)) {
      // The browser puts its own page in the place of one that may not be framed.
      expect(frame.url()).toBe('chrome-error://chromewebdata/');
      expect(await frame.content()).not.toContain('coffer');
    }
  });

  test('reads nothing of it from another site, and cannot send anything in somebody’s name', async ({
    page,
    baseURL,
  }) => {
    await logIn(page);
    await page.route(`${other}/**`, (route) =>
      route.fulfill({ body: '<!doctype html>', contentType: 'text/html' }),
    );
    await page.goto(`${other}/`);
    const answers = await page.evaluate(async (at) => {
      const call = async (init: RequestInit): Promise<string> =>
        fetch(`${at}/api/company`, { credentials: 'include', ...init }).then(
          async (answer) => `${answer.type} ${answer.status} ${(await answer.text()).length}`,
          () => 'refused',
        );
      return [await call({}), await call({ mode: 'no-cors' }), await call({ method: 'PUT', body: '{}' })];
    }, baseURL ?? '');
    expect(answers).toEqual(['refused', 'refused', 'refused']);
  });
});
