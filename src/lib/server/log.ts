import { pino } from 'pino';

export const log = pino({ level: process.env['TEVRIK_LOG'] ?? 'info', base: null });
