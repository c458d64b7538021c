import { rangeParameter } from '~contracts/heard-range';
import { roomParameter } from '~contracts/room-address';

/** As what the result is shown. */
export const views = { list: 'List', pack: 'By pack', set: 'By set', map: 'Map' } as const;
export type View = keyof typeof views;
export const viewParameter = 'view';

export const viewOf = (parameters: URLSearchParams): View => {
  const said = parameters.get(viewParameter);
  return said !== null && Object.hasOwn(views, said) ? (said as View) : 'list';
};

/** What stands in the Library's address beside the query. */
export const besideQuery = (parameters: URLSearchParams): [string, string][] =>
  [...parameters].filter(([name]) => name === roomParameter || name === viewParameter || name === rangeParameter);
