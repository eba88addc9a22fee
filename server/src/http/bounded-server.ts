import { createServer, type RequestListener, type Server } from 'node:http';

/** Milliseconds that the headers of a call may take to arrive, and the connections that are open at once. */
const headersWithin = 15_000;
const mostConnections = 1000;
/** How often it is looked whether a connection is over its time, milliseconds. */
const looked = 2000;
/** No call takes longer to arrive, whatever it brings: each body has a time of its own; see `read-body.ts`. */
const arrivedWithin = 3_600_000;
/** Milliseconds that a caller has to take an answer that came before all of what they send. */
const lingers = 1000;

/** A server that waits for nobody for ever: connections are bounded, and each ends whose call does not come to its end. */
export function boundedServer(listener: RequestListener, within = headersWithin): Server {
  const server = createServer(
    {
      headersTimeout: within,
      requestTimeout: arrivedWithin,
      connectionsCheckingInterval: Math.min(looked, within),
    },
    (request, response) => {
      response.once('finish', () => {
        // What is still being sent to a call that is answered is of use to nobody.
        if (!request.complete) setTimeout(() => request.destroy(), lingers).unref();
      });
      listener(request, response);
    },
  );
  server.maxConnections = mostConnections;
  return server;
}
