import pino from 'pino';
import { config } from './config.server';

/** What the server has to say to whoever runs it: a line of JSON each, on standard output. */
export const log = pino({ level: config.logLevel, base: null, timestamp: pino.stdTimeFunctions.isoTime });
