/**
 * Asks again when asked to, but never before the last answer is there: what comes meanwhile is one more asking behind it. Who asked anew with
 * each piece of news would call the one before back each time, and while news keep coming never see any answer.
 */
export function oneAfterAnother(ask: () => Promise<unknown>): () => Promise<void> {
  let isUnderWay = false,
    again = false;
  return async () => {
    again = true;
    if (isUnderWay) return;
    isUnderWay = true;
    try {
      while (again) {
        again = false;
        await ask();
      }
    } finally {
      isUnderWay = false;
    }
  };
}
