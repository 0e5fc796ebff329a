import { Op } from 'sequelize';

import { Bush, FORMER, Membership } from './db/index.ts';
import { log } from './log.ts';

interface Listener {
  readonly bushId: string;
  readonly userId: string;
  readonly tell: (text: string) => void;
  readonly end: () => void;
  /** what it was told last */
  told: string;
}

const LOOK_MS = 1000;
/** Every so many looks a listener hears that the line still stands. */
const LOOKS_A_WORD = 20;

const listeners = new Set<Listener>();
let timer: ReturnType<typeof setInterval> | null = null;
let looks = 0;
let looking = false;

/**
 * Events for one who has a bush open: `changed`, with the feed and the number of its last change, at once and whenever there
 * is a new one. The number is looked up in the database, so that a write by another server is told too.
 */
export function listen(bushId: string, userId: string): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let listener: Listener | null = null;
  const leave = () => {
    if (listener) listeners.delete(listener);
    if (listeners.size > 0 || !timer) return;
    clearInterval(timer);
    timer = null;
  };
  return new ReadableStream({
    start(controller) {
      listener = {
        bushId,
        userId,
        told: '',
        tell: (text) => controller.enqueue(encoder.encode(text)),
        end: () => {
          leave();
          controller.close();
        }
      };
      listeners.add(listener);
      timer ??= begin();
      void look();
    },
    cancel: leave
  });
}

function begin(): ReturnType<typeof setInterval> {
  // A server that is asked to stop does not wait for those who listen: they come again once it is back.
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    if (process.listenerCount(signal) > 0 && process.listeners(signal).every((each) => each !== endAll))
      process.prependListener(signal, endAll);
  return setInterval(() => void look(), LOOK_MS);
}

function endAll(): void {
  for (const { end } of [...listeners]) end();
}

async function look(): Promise<void> {
  if (looking) return;
  looking = true;
  try {
    looks += 1;
    const word = looks % LOOKS_A_WORD === 0;
    // Whoever comes meanwhile is told with the next look.
    const all = [...listeners];
    const ids = [...new Set(all.map(({ bushId }) => bushId))];
    const rows = await Bush.findAll({ where: { id: ids }, attributes: ['id', 'changes', 'feedId'], raw: true });
    const now = new Map(rows.map(({ id, changes, feedId }) => [id, JSON.stringify({ feed: feedId, last: changes })]));
    const left = await whoLeft(all);
    for (const listener of all) {
      if (!listeners.has(listener)) continue;
      const data = now.get(listener.bushId);
      if (data === undefined || left.has(listener)) listener.end();
      else if (data !== listener.told) {
        listener.told = data;
        listener.tell(`event: changed\ndata: ${data}\n\n`);
      } else if (word) listener.tell(': here\n\n');
    }
  } catch (error) {
    log.warn({ err: error }, 'Those who listen could not be told');
  } finally {
    looking = false;
  }
}

/** Listeners who are members no more. */
async function whoLeft(all: readonly Listener[]): Promise<ReadonlySet<Listener>> {
  const members = await Membership.findAll({
    where: {
      userId: all.map(({ userId }) => userId),
      bushId: all.map(({ bushId }) => bushId),
      role: { [Op.ne]: FORMER }
    },
    raw: true
  });
  const here = new Set(members.map(({ userId, bushId }) => `${userId} ${bushId}`));
  return new Set(all.filter(({ userId, bushId }) => !here.has(`${userId} ${bushId}`)));
}
