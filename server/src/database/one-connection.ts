import { AsyncLocalStorage } from 'node:async_hooks';
import type { Knex } from 'knex';

/** Whether a call holds a connection at this moment. */
const calls = new AsyncLocalStorage<{ holds: boolean }>();

/** Acts for one call, which holds one connection at a time: calls that each held one and waited for a second would stop all. */
export function withOneConnection<Made>(act: () => Promise<Made>): Promise<Made> {
  return calls.run({ holds: false }, act);
}

/** What Knex draws its connections by. */
interface Pooled {
  acquireConnection(): Promise<object>;
  releaseConnection(connection: object): Promise<void>;
}

/** Makes a pool refuse a second connection to a call that holds one. */
export function oneConnectionACall(database: Knex): void {
  const client = database.client as Pooled;
  const holders = new WeakMap<object, { holds: boolean }>();
  const acquire = client.acquireConnection.bind(client);
  const release = client.releaseConnection.bind(client);
  client.acquireConnection = async () => {
    const call = calls.getStore();
    if (!call) return acquire();
    if (call.holds) throw new Error('A call that holds a connection of the database asks for a second one.');
    call.holds = true;
    try {
      const connection = await acquire();
      holders.set(connection, call);
      return connection;
    } catch (error) {
      call.holds = false;
      throw error;
    }
  };
  client.releaseConnection = (connection) => {
    const call = holders.get(connection);
    holders.delete(connection);
    if (call) call.holds = false;
    return release(connection);
  };
}
