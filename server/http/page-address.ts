/**
 * Path and search of the page that a request is for. The pages' own data comes under names of the framework: `/packs.data` for `/packs`,
 * `/_.data` for `/`, with `_routes` naming the parts wanted.
 */
export function pageAddress(url: URL): string {
  const search = new URLSearchParams(url.search);
  if (!url.pathname.endsWith('.data')) return url.pathname + url.search;
  search.delete('_routes');
  const path = url.pathname.replace(/\/_(?:root)?\.data$/, '/').replace(/\.data$/, '');
  return search.size > 0 ? `${path}?${search}` : path;
}
