import { config } from '../config.server';
import { pebblebank } from './pebblebank';
import type { ExchangeSource } from './source';

/** Every source that is set up here. */
export const exchangeSources: readonly ExchangeSource[] = config.exchangeUrl ? [pebblebank(config.exchangeUrl)] : [];

/** The source of that name; null for none. */
export const exchangeSource = (id: string): ExchangeSource | null => exchangeSources.find((each) => each.id === id) ?? null;
