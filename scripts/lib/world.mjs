import { startDatabase } from './database.mjs';
import { freePort, pause } from './exec.mjs';
import { prepareDemo, startServer } from './server.mjs';

/** A server with the demo bush and a database of its own, which can be killed and come back. */
export async function openWorld() {
  let database = await startDatabase('db');
  await prepareDemo(database.url);
  const port = await freePort(48200);
  const start = () => startServer({ databaseUrl: database.url, port, demo: true, today: '2026-11-23', quiet: true });
  let server = await start();
  const kill = async (/** @type {number | undefined} */ pid) => {
    process.kill(/** @type {number} */ (pid), 'SIGKILL');
    // Long enough for devices to notice.
    await pause(300);
  };
  return {
    origin: () => server.origin,
    killServer: async () => {
      await kill(server.pid);
      server = await start();
    },
    killDatabase: async () => {
      await kill(database.pid);
      await server.stop();
      database = await startDatabase('db');
      server = await start();
    },
    close: async () => {
      await server.stop();
      await database.stop();
    }
  };
}
