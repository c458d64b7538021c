import { api } from '~/ui/api';
import { ask, withForm } from '~/ui/ask';
import { toast } from '~/ui/toast';
import type { Act } from './transfers';

/** Asks the server to do something with an import. @throws {Error} what it refuses, in words */
export const act: Act = async (fields) => {
  const asked = await ask<{ batchId?: number }>(api.imports, withForm('post', fields));
  if (!asked.ok) throw new Error(asked.wrong);
  return asked.answer;
};

/** The same, where nothing waits for the answer: what is refused is told. @returns whether it is done */
export const actOrTell = (fields: Record<string, string>): Promise<boolean> =>
  act(fields).then(
    () => true,
    (error: Error) => {
      toast.error(error.message);
      return false;
    },
  );
