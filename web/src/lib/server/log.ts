import pino from 'pino';

/** The server's log, on standard error so that standard output stays for people. */
export const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));
