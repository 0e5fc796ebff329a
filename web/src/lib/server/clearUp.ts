import { Op } from 'sequelize';

import { AccessToken, Challenge, OneTimeLink, Session, tables } from './db/index.ts';
import { log } from './log.ts';
import { clearOver } from './playing.ts';
import { forgetOldTries } from './throttle.ts';

/** How often it is looked for what is over, ms. Several servers that do it at once do no harm. */
const EVERY_MS = 6 * 3_600_000;

/** Takes away what ended by itself: sessions, keys, links and challenges that ran out, copies to play in, bushes that were given up. */
export async function clearUp(now = new Date()): Promise<void> {
  tables();
  const over = { where: { expiresAt: { [Op.lte]: now } } };
  await Session.destroy(over);
  await AccessToken.destroy(over);
  await OneTimeLink.destroy(over);
  await Challenge.destroy(over);
  await forgetOldTries(now);
  await clearOver(now);
}

/** Does so from now on, for as long as this process serves. */
export function clearUpNowAndThen(): void {
  const look = () => void clearUp().catch((err: unknown) => log.warn({ err }, 'What is over was not cleared up'));
  look();
  setInterval(look, EVERY_MS).unref();
}
