import type { Act } from './transfers';

/** Asks the server to do something with an import. @throws when the answer is none */
export const act = (async (fields: Record<string, string>) => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  const response = await fetch('/api/v1/imports', { method: 'POST', body: form });
  if (!response.headers.get('Content-Type')?.includes('json')) throw new Error('The server did not answer as it should.');
  return (await response.json()) as { batchId?: number; errors?: Record<string, string>; count?: number };
}) satisfies Act;
