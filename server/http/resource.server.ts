import { loopsExist } from '../services/loops.server';
import { problemResponse } from './problem.server';

/** The method of a request, when it is one that is done here. @throws 405 */
export function onlyMethods<M extends string>({ method }: Request, ...methods: readonly M[]): M {
  const found = methods.find((each) => each === method);
  if (!found) throw problemResponse(405, `This takes ${methods.join(' or ')}.`);
  return found;
}

/** A loop that is there, archived or not. @throws 404 */
export async function knownLoop(id: number): Promise<number> {
  if (!(await loopsExist([id]))) throw problemResponse(404, 'That loop is no longer there.');
  return id;
}
