import { isRouteErrorResponse } from 'react-router';
import { noAnswer, refusalOf } from './ask';
import { toast } from './toast';

/**
 * Around a page's own action, as its `clientAction`: what is refused is told, and where the server does not answer the page stays as it is. What is
 * wrong with a field of a form is the form's to tell.
 */
export async function toldAction<T>({ serverAction }: { serverAction: () => Promise<T> }): Promise<T | null> {
  try {
    const answer = await serverAction(),
      wrong = refusalOf(answer);
    if (wrong !== null && !(answer as { errors?: object }).errors) toast.error(wrong);
    return answer;
  } catch (error) {
    // Where it leads to another page.
    if (error instanceof Response) throw error;
    toast.error((isRouteErrorResponse(error) && refusalOf(error.data)) || noAnswer);
    return null;
  }
}
