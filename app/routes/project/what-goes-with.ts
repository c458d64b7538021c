import { emptyQuery, queryToParameters } from '~core/search/query';

/** Where the Library looks for what completes these tracks. */
export const whatGoesWith = (trackIds: readonly string[]): string =>
  `/?${new URLSearchParams(queryToParameters({ ...emptyQuery, near: { kind: 'tracks', trackIds }, sort: 'fit' }))}`;
