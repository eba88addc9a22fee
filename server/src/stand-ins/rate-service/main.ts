import { standInRateService } from './rate-service.ts';

// A process of its own, as the service of a real publisher would be.
const server = standInRateService();
server.listen(Number(process.env['COFFER_RATE_PORT'] ?? '4690'), '127.0.0.1');
for (const end of ['SIGTERM', 'SIGINT', 'disconnect'] as const) process.once(end, () => server.close());
process.channel?.unref();
