import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { clockAt } from './clock.ts';
import { readConfiguration } from './configuration.ts';
import { connect } from './database/connect.ts';
import { notOfForm } from './database/migrate.ts';
import { clearOutHourly } from './hourly.ts';
import { loadDemo } from './demo/load-demo.ts';
import { application } from './http/app.ts';
import { boundedServer } from './http/bounded-server.ts';
import { installationId, publicPlace } from './http/public-place.ts';
import { workAhead } from './register/work-ahead.ts';
import { FigureThreads } from './workers/figure-threads.ts';

const configuration = readConfiguration(process.env);
// A log that cannot be written, as on a full disk, loses its lines; calls go on.
const log = pino.destination({ fd: 1, sync: true });
log.on('error', () => undefined);
const logger = pino({ level: configuration.COFFER_LOG }, log);
const database = connect(configuration.COFFER_DATABASE);
const unfit = await notOfForm(database);
if (unfit !== undefined) {
  process.stderr.write(`${unfit}\n`);
  process.exit(3);
}
const workersFolder = fileURLToPath(new URL('.', import.meta.url));
const figures = new FigureThreads(workersFolder, logger);
if (configuration.COFFER_DEMO !== undefined)
  await loadDemo(database, figures, configuration.COFFER_DEMO, logger);

const { app, end } = application({
  database,
  databaseUrl: configuration.COFFER_DATABASE,
  secret: configuration.COFFER_SECRET,
  logger,
  figures,
  workersFolder,
  place: publicPlace(configuration.COFFER_PUBLIC_URL, installationId(configuration.COFFER_SECRET)),
  demo: configuration.COFFER_DEMO !== undefined,
  setUpCode: configuration.COFFER_SET_UP_CODE,
  today: clockAt(configuration.COFFER_TODAY),
  rateService: configuration.COFFER_RATE_SERVICE,
  siteFolder: configuration.COFFER_SITE,
  filesReady: true,
});
const server = boundedServer(app);
const clearOutNoMore = clearOutHourly(database, logger);
server.listen(configuration.COFFER_PORT, '127.0.0.1', () => {
  logger.info({ address: server.address() }, 'listening');
  workAhead(database, figures).catch((error: unknown) => {
    if (!stopping) logger.warn(error, 'the open months were not worked out ahead');
  });
});

/** Calls that take longer are broken off when the application ends: what they were about to write, they do not. */
const longestCall = 25_000;
let stopping = false;

/** Lets calls that are under way finish, whatever they are about; only then what they work with is closed. */
async function stop(signal: string): Promise<void> {
  if (stopping) return;
  stopping = true;
  logger.info({ signal }, 'stopping');
  const finished = new Promise((resolve) => server.close(resolve));
  // One that is kept open for a next call is idle only once the call that is under way has been answered.
  const idle = setInterval(() => server.closeIdleConnections(), 50);
  const late = setTimeout(() => server.closeAllConnections(), longestCall);
  await finished;
  clearOutNoMore();
  clearInterval(idle);
  clearTimeout(late);
  await end();
  await figures.end();
  await database.destroy();
}
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => void stop(signal));
// Whoever keeps it running has gone: nobody would end it any more.
process.on('disconnect', () => void stop('disconnect'));
process.channel?.unref();
