import { backUp, backupsIn, isDue } from './backups.mjs';
import { pause } from './exec.mjs';
import { say } from './say.mjs';
import { ensurePrograms } from './setup.mjs';

/** How often it is looked whether a backup is due, ms. */
const LOOK_MS = 60_000;
/** After one that failed, ms: a disk that is full is not there again the next minute. */
const AFTER_FAILURE_MS = 3_600_000;
/** Whoever stops the server waits so long for a backup that is being made, ms; it is then cut off, and the next clears up after it. */
const STOPS_WITHIN_MS = 20_000;

/**
 * Makes a backup each night while the server runs.
 * @param {() => string} url of the database, which can move
 * @param {Pick<import('./config.mjs').Config, 'data' | 'backups' | 'backupAt'>} config
 * @returns stops it
 */
export function backUpEachNight(url, { data, backups, backupAt }) {
  if (backupAt === null) return async () => undefined;
  let notBefore = 0;
  /** @type {Promise<void> | null} */
  let busy = null;
  const look = async () => {
    const now = new Date();
    if (now.getTime() < notBefore || !isDue(backupAt, backupsIn(backups)[0], now)) return;
    try {
      await ensurePrograms(['mariadb', 'mariadb-dump', 'mariadbd', 'mariadb-install-db']);
      await backUp(url(), { backups, data }, { now });
    } catch (error) {
      notBefore = now.getTime() + AFTER_FAILURE_MS;
      say(`The backup of this night was not made: ${/** @type {Error} */ (error).message}`);
    }
  };
  const timer = setInterval(() => {
    busy ??= look().finally(() => (busy = null));
  }, LOOK_MS);
  return async () => {
    clearInterval(timer);
    await Promise.race([busy, pause(STOPS_WITHIN_MS)]);
  };
}
