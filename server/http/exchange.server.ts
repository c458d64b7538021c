import type { ExchangeSource } from '../exchange/source';
import { exchangeSource } from '../exchange/sources.server';
import { problemResponse } from './problem.server';

/** The source that an address names. @throws 404 */
export function sourceParam(id: string | undefined): ExchangeSource {
  const source = exchangeSource(id ?? '');
  if (!source) throw problemResponse(404, 'There is no such exchange.');
  return source;
}
