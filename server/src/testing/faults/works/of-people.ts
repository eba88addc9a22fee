import { randomUUID } from 'node:crypto';
import { setUpCode } from '../../test-server.ts';
import { adding, sending, type Kind } from './work.ts';

const seen = { path: '/api/people', part: 'people' };
/** An invitation takes the place of an earlier one to the same person, and is another link. */
const invitations = { path: '/api/people', part: 'invitations', but: ['id', 'expiresAt'] };

export const inviting: Kind = (_, place, { sunniva }) => {
  const logIn = `new-${randomUUID().slice(0, 8)}`;
  const body = { logIn, name: 'Maren Holt', role: ['review'] };
  const act = sending(place, sunniva, '/api/people/invitations', body);
  return adding(place, { name: 'inviting', act, lasts: 8, seen: invitations }, { links: 1 });
};

/** Suspends somebody with an open session, or lets them in again. */
export const suspending: Kind = async (_, place, { sunniva }) => {
  const { id, away } = await place.asked<{ id: number; away: boolean }>(
    `select person.id, suspended_at is not null as away from person
       join member on member.person_id = person.id and company_id = 1 where log_in = 'tobiah'`,
  );
  const body = { role: [], suspended: !away };
  const act = sending(place, sunniva, `/api/people/${id}`, body, 'PUT');
  return adding(
    place,
    { name: away ? 'readmitting' : 'suspending', act, lasts: 8, seen },
    { away: away ? -1 : 1 },
  );
};

/** The first company of an empty installation, and who administers it. */
export const settingUp: Kind = async (_, place) => {
  await place.emptied();
  const caller = place.caller(place.own);
  await caller.call('GET', '/api/session');
  const company = { name: 'Pellwin', currency: 'GBP', fiscalYearEndMonth: 3, booksFrom: '2026-04-01' };
  const person = { name: 'Maren Tolliver', logIn: 'maren', password: 'otter lantern gravel pine' };
  return {
    name: 'setting up',
    of: 'call',
    lasts: 12,
    server: place.own,
    once: true,
    act: sending(place, caller, '/api/set-up', { code: setUpCode, company, person }),
    async isDone() {
      const { all, some } = await place.asked<{ all: boolean; some: boolean }>(
        `select count(*) = 3 as all, count(*) > 0 as some from (select from company union all select from person
           union all select from member where 'administer' = any (role)) made`,
        'own',
      );
      if (some && !all) throw new Error('Set up by half.');
      return all;
    },
  };
};
